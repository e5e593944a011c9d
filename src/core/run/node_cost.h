// What playing and writing cost, in seconds of one core. Figures are of bench/costs.cpp, which measures them:
// what counts is how they stand to each other.
#pragma once

#include "recipe/recipe.h"

namespace octaphon {

inline constexpr double kPassCost = 120e-6;  ///< of a pass, however short
inline constexpr double kFileCost = 250e-6;  ///< of a file, however short: made, synced, named
inline constexpr double kSampleCost = 5e-9;  ///< of a sample that is written, with its statistics

/// Of a node, a frame in which something sounds.
double nodeCost(const RecipeNode& node);

/// Of all nodes of a recipe from one frame of the session to another. What is silent costs next to nothing;
/// when that is, is estimated from the clips and how long effects ring.
double playingCost(const SpanRecipe& recipe, Frame from, Frame to);

}  // namespace octaphon

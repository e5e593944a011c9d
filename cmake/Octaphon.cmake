# What every target of the project shares: warnings, floating point that does not depend on the
# optimiser, sanitizers; and how a folder of the core becomes a target.

find_program(OCTAPHON_MOLD mold)
if(OCTAPHON_MOLD AND NOT OCTAPHON_SANITIZE)
  add_link_options(-fuse-ld=mold)
endif()

function(octaphon_defaults target)
  target_compile_options(${target} PRIVATE -Wall -Wextra -Wpedantic -Wshadow -Wconversion
    -Wno-sign-conversion -Wno-restrict -Wnon-virtual-dtor -Woverloaded-virtual -ffp-contract=off)
  if(OCTAPHON_SANITIZE)
    target_compile_options(${target} PRIVATE -fsanitize=${OCTAPHON_SANITIZE} -fno-omit-frame-pointer)
    target_link_options(${target} PUBLIC -fsanitize=${OCTAPHON_SANITIZE})
  endif()
endfunction()

# Where next to no time is spent when it runs, and much when it is compiled.
function(octaphon_compile_quickly target)
  target_compile_options(${target} PRIVATE $<$<CONFIG:Release>:-O1>)
endfunction()

# octaphon_core_folder(NAME [LOOPS] SOURCES a.cpp … USES folder … LIBRARIES Some::Library …)
# USES names the folders of the core this one may include from; there is no other way to reach them. LOOPS: its time is
# spent in loops over samples, and each source is compiled by itself.
function(octaphon_core_folder name)
  cmake_parse_arguments(ARG "LOOPS" "" "SOURCES;USES;LIBRARIES" ${ARGN})
  set(target octaphon_${name})
  add_library(${target} STATIC ${ARG_SOURCES})
  octaphon_defaults(${target})
  if(ARG_LOOPS)
    set_target_properties(${target} PROPERTIES UNITY_BUILD OFF)
    target_compile_options(${target} PRIVATE $<$<CONFIG:Release>:-O3>)
  endif()
  target_include_directories(${target} PUBLIC ${CMAKE_SOURCE_DIR}/src/core)
  list(TRANSFORM ARG_USES PREPEND octaphon_)
  target_link_libraries(${target} PUBLIC ${ARG_USES} ${ARG_LIBRARIES})
endfunction()

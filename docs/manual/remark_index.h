// Every remark and finding with what it means and what to do, for documents.
#pragma once

#include <string>

namespace octaphon::manual {

std::string remarkTable();   ///< what stands under the mark `remarks`
std::string findingTable();  ///< what stands under the mark `findings`

}  // namespace octaphon::manual

#include "formats/ogg_packets.h"

#include <algorithm>
#include <cstring>

#include <ogg/ogg.h>

namespace octaphon {
namespace {

/// libogg's states, given back when they go.
struct Reading {
  Reading() { ogg_sync_init(&sync); }
  ~Reading() {
    if (isOpen) ogg_stream_clear(&stream);
    ogg_sync_clear(&sync);
  }
  Reading(const Reading&) = delete;
  Reading& operator=(const Reading&) = delete;

  ogg_sync_state sync;
  ogg_stream_state stream;
  bool isOpen = false;
};

}  // namespace

OggPackets oggPackets(std::string_view bytes, std::size_t most) {
  OggPackets found;
  Reading reading;
  char* const buffer = ogg_sync_buffer(&reading.sync, static_cast<long>(bytes.size()));
  if (buffer == nullptr) return found;
  std::memcpy(buffer, bytes.data(), bytes.size());
  ogg_sync_wrote(&reading.sync, static_cast<long>(bytes.size()));
  ogg_page page;
  while (found.packets.size() < most && ogg_sync_pageout(&reading.sync, &page) == 1) {
    if (!reading.isOpen) {
      found.serial = static_cast<std::uint32_t>(ogg_page_serialno(&page));
      ogg_stream_init(&reading.stream, ogg_page_serialno(&page));
      reading.isOpen = true;
    }
    found.bytes += static_cast<std::uint64_t>(page.header_len + page.body_len);
    if (ogg_stream_pagein(&reading.stream, &page) != 0) continue;  // of another stream
    ogg_packet packet;
    while (found.packets.size() < most && ogg_stream_packetout(&reading.stream, &packet) == 1)
      found.packets.emplace_back(reinterpret_cast<const char*>(packet.packet),
                                 static_cast<std::size_t>(packet.bytes));
  }
  return found;
}

}  // namespace octaphon

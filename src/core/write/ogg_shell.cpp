#include "write/ogg_shell.h"

#include <unistd.h>

#include <algorithm>
#include <cerrno>

#include <ogg/ogg.h>

#include "base/files.h"
#include "formats/ogg_packets.h"
#include "formats/vorbis_comment.h"

namespace octaphon {
namespace {

constexpr std::size_t kPageHead = 27;  // bytes, before its table of segments

std::string commentPacket(const FileForm& form, const std::string& vendor, const FileData& data) {
  const std::string comments = packedComments(vendor, commentsOf(data, form));
  if (form.encoding == Encoding::Opus) return "OpusTags" + comments;
  return "\x03vorbis" + comments + '\x01';  // a bit that says it is whole
}

/// Packets as pages, each packet of `ending` the last of its page.
class Pages {
 public:
  explicit Pages(std::uint32_t serial) { ogg_stream_init(&stream_, static_cast<int>(serial)); }
  ~Pages() { ogg_stream_clear(&stream_); }
  Pages(const Pages&) = delete;
  Pages& operator=(const Pages&) = delete;

  void add(const std::string& packet) {
    ogg_packet one{};
    one.packet = reinterpret_cast<unsigned char*>(const_cast<char*>(packet.data()));  // it is copied
    one.bytes = static_cast<long>(packet.size());
    one.b_o_s = packets_ == 0 ? 1 : 0;
    one.packetno = packets_++;
    ogg_stream_packetin(&stream_, &one);
  }
  void flush() {
    ogg_page page;
    while (ogg_stream_flush(&stream_, &page) != 0) {
      bytes_.append(reinterpret_cast<const char*>(page.header), static_cast<std::size_t>(page.header_len));
      bytes_.append(reinterpret_cast<const char*>(page.body), static_cast<std::size_t>(page.body_len));
    }
  }
  const std::string& bytes() const { return bytes_; }

 private:
  ogg_stream_state stream_;
  std::int64_t packets_ = 0;
  std::string bytes_;
};

bool readAt(int fd, std::uint64_t at, std::string& to, std::size_t size) {
  to.resize(size);
  return ::pread(fd, to.data(), size, static_cast<off_t>(at)) == static_cast<ssize_t>(size);
}

std::size_t bodyOf(std::string_view head) {
  std::size_t size = 0;
  for (const char segment : head.substr(kPageHead)) size += static_cast<unsigned char>(segment);
  return size;
}

/// A page at a place, its head and its body; false where there is none.
bool readPage(int fd, std::uint64_t at, std::string& head, std::string& body) {
  if (!readAt(fd, at, head, kPageHead) || !head.starts_with("OggS")) return false;
  const std::size_t segments = static_cast<unsigned char>(head[kPageHead - 1]);
  return readAt(fd, at, head, kPageHead + segments) && readAt(fd, at + head.size(), body, bodyOf(head));
}

void setNumber(std::string& head, std::string& body, std::uint32_t number) {
  for (unsigned i = 0; i < 4; ++i) head[18 + i] = static_cast<char>(number >> (8 * i));
  ogg_page page;
  page.header = reinterpret_cast<unsigned char*>(head.data());
  page.header_len = static_cast<long>(head.size());
  page.body = reinterpret_cast<unsigned char*>(body.data());
  page.body_len = static_cast<long>(body.size());
  ogg_page_checksum_set(&page);
}

std::uint32_t numberOf(const std::string& head) {
  std::uint32_t number = 0;
  for (unsigned i = 0; i < 4; ++i)
    number |= static_cast<std::uint32_t>(static_cast<unsigned char>(head[18 + i])) << (8 * i);
  return number;
}

}  // namespace

void OggShell::setStream(std::uint32_t serial, std::string identification, std::string vendor,
                         std::string setup) {
  serial_ = serial;
  identification_ = std::move(identification);
  vendor_ = std::move(vendor);
  setup_ = std::move(setup);
}

std::string OggShell::head(const FileData& data, Frame) const {
  Pages pages(serial_);
  pages.add(identification_);
  pages.flush();
  pages.add(commentPacket(form_, vendor_, data));
  if (!setup_.empty()) pages.add(setup_);
  pages.flush();
  return pages.bytes();
}

std::uint32_t OggShell::pagesOf(const std::string& head) const {
  std::uint32_t pages = 0;
  for (std::size_t at = 0; at + kPageHead <= head.size(); ++pages) {
    const std::size_t segments = static_cast<unsigned char>(head[at + kPageHead - 1]);
    at += kPageHead + segments + bodyOf(std::string_view(head).substr(at, kPageHead + segments));
  }
  return pages;
}

Result<> OggShell::take(const std::string& head, const std::string& place) {
  const std::size_t packets = form_.encoding == Encoding::Opus ? 2 : 3;
  const OggPackets read = oggPackets(head, packets);
  const std::size_t prefix = form_.encoding == Encoding::Opus ? 8 : 7;
  std::string vendor;
  Comments comments;
  if (read.packets.size() < packets || read.packets[1].size() < prefix ||
      !readComments(std::string_view(read.packets[1]).substr(prefix), vendor, comments))
    return fail(ErrorCode::BadValue, place, "the file that was made is no Ogg stream any more");
  setStream(read.serial, read.packets[0], vendor, packets > 2 ? read.packets[2] : std::string());
  return {};
}

Result<bool> OggShell::settle(int fd, std::uint64_t head, const std::string& place) const {
  std::string pageHead, body, headers;
  if (!readAt(fd, 0, headers, static_cast<std::size_t>(head))) return fail(ErrorCode::NotReadable, place);
  std::uint32_t number = pagesOf(headers);
  if (!readPage(fd, head, pageHead, body) || numberOf(pageHead) == number) return false;
  for (std::uint64_t at = head; readPage(fd, at, pageHead, body); at += pageHead.size() + body.size()) {
    setNumber(pageHead, body, number++);
    if (::pwrite(fd, pageHead.data(), pageHead.size(), static_cast<off_t>(at)) !=
        static_cast<ssize_t>(pageHead.size()))
      return tl::unexpected(systemError(errno, place, ErrorCode::NotWritable));
  }
  return true;
}

}  // namespace octaphon

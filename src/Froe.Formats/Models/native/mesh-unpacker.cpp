// Unpacks what glTF files hold packed, by the libraries of those who made the packings: Draco (KHR_draco_mesh_compression)
// and meshoptimizer (EXT_meshopt_compression). Nothing is decided here.
//
//   froe-mesh-unpacker MEGABYTES
//
// reads requests on standard input and answers each on standard output before it reads the next; all numbers are little
// endian and of 32 bits. A request is the packing (1 Draco, 2 meshoptimizer), the length of the packed bytes, four numbers,
// and the bytes. For Draco the numbers are the attributes of positions and of colours (-1 for none), 0 and 0; the answer is
// 0, how many points and triangles, whether there are colours, the positions (3 floats each), the colours (4 floats each),
// and the triangles (3 points each). For meshoptimizer they are the mode (0 attributes, 1 triangles, 2 indices), the filter
// (0 none, 1 octahedral, 2 quaternion, 3 exponential), how many elements and how long each is in bytes; the answer is 0 and the elements.
// An answer of 1 alone: the bytes are damaged. Exit code 3: they need more memory than that.
#include <draco/compression/decode.h>
#include <meshoptimizer.h>
#include <sys/resource.h>

#include <algorithm>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <limits>
#include <new>
#include <vector>

namespace {

constexpr std::uint32_t kDraco = 1, kMeshoptimizer = 2, kGood = 0, kDamaged = 1;

bool Get(void* to, std::size_t size) { return std::fread(to, 1, size, stdin) == size; }

void Put(const void* from, std::size_t size) {
  if (std::fwrite(from, 1, size, stdout) != size) std::exit(2);
}

void Put(std::uint32_t number) { Put(&number, sizeof number); }

// A colour's share of what its kind of number can hold; numbers with a point are shares already.
float Full(const draco::PointAttribute& colours) {
  if (colours.normalized()) return 1;
  switch (colours.data_type()) {
    case draco::DT_UINT8: return std::numeric_limits<std::uint8_t>::max();
    case draco::DT_UINT16: return std::numeric_limits<std::uint16_t>::max();
    default: return 1;
  }
}

bool UnpackDraco(const std::vector<char>& packed, std::int32_t of_positions, std::int32_t of_colours) {
  draco::DecoderBuffer buffer;
  buffer.Init(packed.data(), packed.size());
  draco::Decoder decoder;
  auto decoded = decoder.DecodeMeshFromBuffer(&buffer);
  if (!decoded.ok()) return false;
  const draco::Mesh& mesh = *decoded.value();
  const draco::PointAttribute* positions = mesh.GetAttributeByUniqueId(of_positions);
  const draco::PointAttribute* colours = of_colours < 0 ? nullptr : mesh.GetAttributeByUniqueId(of_colours);
  if (positions == nullptr || positions->num_components() != 3) return false;
  if (colours != nullptr && colours->num_components() != 3 && colours->num_components() != 4) return false;
  const std::uint32_t points = mesh.num_points();
  std::vector<float> places(3 * static_cast<std::size_t>(points)), inks(colours == nullptr ? 0 : 4 * static_cast<std::size_t>(points), 1);
  const float full = colours == nullptr ? 1 : Full(*colours);
  for (std::uint32_t i = 0; i < points; ++i) {
    const draco::PointIndex point(i);
    if (!positions->ConvertValue<float>(positions->mapped_index(point), 3, &places[3 * static_cast<std::size_t>(i)])) return false;
    if (colours == nullptr) continue;
    float* ink = &inks[4 * static_cast<std::size_t>(i)];
    if (!colours->ConvertValue<float>(colours->mapped_index(point), colours->num_components(), ink)) return false;
    std::for_each(ink, ink + colours->num_components(), [full](float& share) { share /= full; });
  }
  std::vector<std::uint32_t> corners;
  corners.reserve(3 * static_cast<std::size_t>(mesh.num_faces()));
  for (std::uint32_t i = 0; i < mesh.num_faces(); ++i)
    for (const draco::PointIndex& corner : mesh.face(draco::FaceIndex(i))) corners.push_back(corner.value());
  Put(kGood);
  Put(points);
  Put(mesh.num_faces());
  Put(colours != nullptr);
  Put(places.data(), places.size() * sizeof(float));
  Put(inks.data(), inks.size() * sizeof(float));
  Put(corners.data(), corners.size() * sizeof(std::uint32_t));
  return true;
}

bool UnpackMeshoptimizer(const std::vector<char>& packed, std::uint32_t mode, std::uint32_t filter, std::uint32_t count, std::uint32_t size) {
  // The library takes these for granted.
  const bool is_fit = mode == 0 ? size % 4 == 0 && size > 0 && size <= 256 : (size == 2 || size == 4) && (mode == 2 || (mode == 1 && count % 3 == 0));
  const bool is_filtered = filter == 0 || (mode == 0 && (filter == 1 ? size == 4 || size == 8 : filter == 2 ? size == 8 : filter == 3));
  if (!is_fit || !is_filtered) return false;
  std::vector<unsigned char> elements(static_cast<std::size_t>(count) * size);
  const auto* bytes = reinterpret_cast<const unsigned char*>(packed.data());
  const int fault = mode == 0   ? meshopt_decodeVertexBuffer(elements.data(), count, size, bytes, packed.size())
                    : mode == 1 ? meshopt_decodeIndexBuffer(elements.data(), count, size, bytes, packed.size())
                                : meshopt_decodeIndexSequence(elements.data(), count, size, bytes, packed.size());
  if (fault != 0) return false;
  if (filter == 1) meshopt_decodeFilterOct(elements.data(), count, size);
  if (filter == 2) meshopt_decodeFilterQuat(elements.data(), count, size);
  if (filter == 3) meshopt_decodeFilterExp(elements.data(), count, size);
  Put(kGood);
  Put(elements.data(), elements.size());
  return true;
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) {
    std::fputs("froe-mesh-unpacker MEGABYTES\n", stderr);
    return 2;
  }
  const rlim_t most = static_cast<rlim_t>(std::atoll(argv[1])) << 20;
  const rlimit room{most, most};
  setrlimit(RLIMIT_AS, &room);
  try {
    std::uint32_t request[6];
    while (Get(request, sizeof request)) {
      std::vector<char> packed(request[1]);
      if (!Get(packed.data(), packed.size())) return 2;
      const bool is_good = request[0] == kDraco ? UnpackDraco(packed, request[2], request[3])
                           : request[0] == kMeshoptimizer && UnpackMeshoptimizer(packed, request[2], request[3], request[4], request[5]);
      if (!is_good) Put(kDamaged);
      std::fflush(stdout);
    }
    return 0;
  } catch (const std::bad_alloc&) {
    return 3;
  }
}

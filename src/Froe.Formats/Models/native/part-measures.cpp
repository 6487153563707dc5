#include "part-measures.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepGProp.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <IMeshTools_Parameters.hxx>
#include <Standard_ErrorHandler.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>

#include <algorithm>
#include <atomic>
#include <cmath>

#include "fineness.h"

namespace {

// Relative, of areas and volumes.
constexpr double kExact = 1e-6;
// More do not make a model quicker to read than they cost the others who read one.
constexpr size_t kMostThreads = 8;

size_t Threads() { return std::clamp<size_t>(std::thread::hardware_concurrency(), 1, kMostThreads); }

// Whether a face is a plane between lines and circles, or lies on another elementary surface between its own lines: there the library's plain
// overloads are right to 1e-9. On others they may be off by a hundredth, and those with a tolerance, which take four times as long, are right.
bool IsPlain(const TopoDS_Face& face) {
  const GeomAbs_SurfaceType on = BRepAdaptor_Surface(face, false).GetType();
  if (on > GeomAbs_Torus) return false;
  for (TopExp_Explorer at(face, TopAbs_EDGE); at.More(); at.Next()) {
    const TopoDS_Edge& edge = TopoDS::Edge(at.Current());
    double from, to;
    if (on == GeomAbs_Plane ? BRepAdaptor_Curve(edge).GetType() > GeomAbs_Circle : Geom2dAdaptor_Curve(BRep_Tool::CurveOnSurface(edge, face, from, to)).GetType() != GeomAbs_Line)
      return false;
  }
  return true;
}

void Measure(Measured& part, bool is_alone) {
  if (part.shape.IsNull()) return;
  TopExp::MapShapes(part.shape, TopAbs_FACE, part.faces);
  TopExp::MapShapes(part.shape, TopAbs_SOLID, part.solids);
  Bnd_Box box;
  try { OCC_CATCH_SIGNALS BRepBndLib::Add(part.shape, box); } catch (const Standard_Failure&) {}
  const double diagonal = box.IsVoid() || box.IsOpen() ? 1 : std::sqrt(box.SquareExtent());
  part.deflection = std::max(1e-6, diagonal * kDeflection);
  try {
    OCC_CATCH_SIGNALS
    IMeshTools_Parameters how;
    how.Deflection = part.deflection;
    how.Angle = kAngle;
    how.InParallel = is_alone;
    // The quicker of the library's two ways.
    how.MeshAlgo = IMeshTools_MeshAlgoType_Delabella;
    BRepMesh_IncrementalMesh mesh(part.shape, how);
  } catch (const Standard_Failure&) {}
  bool is_plain = true;
  for (int i = 1; i <= part.faces.Extent(); i++) {
    double measured = std::nan("");
    try {
      OCC_CATCH_SIGNALS
      const TopoDS_Face& face = TopoDS::Face(part.faces(i));
      const bool is_plain_face = IsPlain(face);
      is_plain &= is_plain_face;
      GProp_GProps area;
      if (is_plain_face) BRepGProp::SurfaceProperties(face, area);
      else BRepGProp::SurfaceProperties(face, area, kExact, true);
      measured = std::abs(area.Mass());
    } catch (const Standard_Failure&) {}
    part.areas.push_back(measured);
  }
  if (part.solids.Extent() == 0) return;
  try {
    OCC_CATCH_SIGNALS
    GProp_GProps volume;
    if (is_plain) BRepGProp::VolumeProperties(part.shape, volume, true, true);
    else BRepGProp::VolumeProperties(part.shape, volume, kExact, true, true);
    part.volume = volume.Mass();
    part.centre = volume.CentreOfMass().XYZ();
    part.has_volume = true;
  } catch (const Standard_Failure&) {}
}

}  // namespace

Measuring::~Measuring() {
  {
    const std::lock_guard<std::mutex> held(lock_);
    waiting_.clear();
  }
  Wait();
}

void Measuring::Ahead(const TopoDS_Shape& shape) {
  // The first processor reads.
  if (Threads() == 1) return;
  const std::lock_guard<std::mutex> held(lock_);
  ahead_.push_back(std::make_unique<Measured>());
  ahead_.back()->shape = shape;
  waiting_.push_back(ahead_.back().get());
  if (workers_.size() + 1 < Threads()) workers_.emplace_back([this] { Work(); });
  changed_.notify_one();
}

void Measuring::Work() {
  for (;;) {
    Measured* next;
    {
      std::unique_lock<std::mutex> held(lock_);
      changed_.wait(held, [this] { return is_last_ || !waiting_.empty(); });
      if (waiting_.empty()) return;
      next = waiting_.front();
      waiting_.pop_front();
    }
    Measure(*next, false);
  }
}

void Measuring::Wait() {
  {
    const std::lock_guard<std::mutex> held(lock_);
    is_last_ = true;
  }
  changed_.notify_all();
  // What has not begun is done here as well.
  if (!workers_.empty()) Work();
  for (std::thread& worker : workers_) worker.join();
  workers_.clear();
}

std::vector<std::unique_ptr<Measured>> Measuring::All(const std::vector<TopoDS_Shape>& shapes) {
  Wait();
  std::vector<std::unique_ptr<Measured>> all(shapes.size());
  // Parts of one shape are the same to whoever meshes them: one after the other.
  std::vector<std::vector<size_t>> groups;
  std::map<const TopoDS_TShape*, size_t> group_of;
  for (size_t i = 0; i < shapes.size(); i++) {
    for (std::unique_ptr<Measured>& one : ahead_)
      if (one && one->shape.IsEqual(shapes[i])) { all[i] = std::move(one); break; }
    if (all[i]) continue;
    all[i] = std::make_unique<Measured>();
    all[i]->shape = shapes[i];
    const auto [at, is_new] = group_of.try_emplace(shapes[i].IsNull() ? nullptr : shapes[i].TShape().get(), groups.size());
    if (is_new) groups.emplace_back();
    groups[at->second].push_back(i);
  }
  std::atomic<size_t> next{0};
  const auto work = [&] {
    for (size_t g; (g = next++) < groups.size();)
      // A part alone is meshed by all processors.
      for (const size_t i : groups[g]) Measure(*all[i], groups.size() == 1);
  };
  std::vector<std::thread> others;
  for (size_t i = 1; i < std::min(groups.size(), Threads()); i++) others.emplace_back(work);
  work();
  for (std::thread& other : others) other.join();
  return all;
}

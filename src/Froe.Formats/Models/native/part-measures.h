// What takes long of a part: its mesh, the areas of its faces and its volume.
#pragma once

#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_XYZ.hxx>

#include <condition_variable>
#include <deque>
#include <map>
#include <memory>
#include <mutex>
#include <thread>
#include <vector>

struct Measured {
  TopoDS_Shape shape;
  TopTools_IndexedMapOfShape faces, solids;
  double deflection = 0;
  // Not a number where it cannot be told.
  std::vector<double> areas;
  bool has_volume = false;
  double volume = 0;
  gp_XYZ centre;
};

// Measures parts, as many at once as there are processors.
class Measuring {
 public:
  Measuring() = default;
  Measuring(const Measuring&) = delete;
  Measuring& operator=(const Measuring&) = delete;
  ~Measuring();

  // Has a part measured while others are still read: they share nothing, for the library makes the points and edges of each body anew.
  void Ahead(const TopoDS_Shape& shape);

  // Until all are that were to be ahead.
  void Wait();

  // All parts of a model, those among them that were measured ahead taken as they are.
  std::vector<std::unique_ptr<Measured>> All(const std::vector<TopoDS_Shape>& shapes);

 private:
  void Work();

  std::mutex lock_;
  std::condition_variable changed_;
  std::deque<Measured*> waiting_;
  bool is_last_ = false;
  std::vector<std::thread> workers_;
  std::vector<std::unique_ptr<Measured>> ahead_;
};

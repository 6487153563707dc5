// Translates a STEP or IGES file into plain numbers by Open CASCADE: the tree of components, each part's faces and edges
// with their exact surfaces and curves, its mass and a mesh. Nothing is decided here.
//
//   froe-step-reader
//   froe-iges-reader
//
// Each line of standard input, MEGABYTES FOLDER, asks for the file FOLDER/in to be read with no more memory than that: FOLDER/model.json
// and FOLDER/model.bin are written, and a line with the exit code goes to standard output: 0, or 3 with a line in FOLDER/said where the
// file cannot be read, or 128 and the signal that ended the reading. Each file is read by a process of its own, split off from this one,
// which reads none: to load the library takes longer than to read a small file. There are two programs because what only the other
// needs takes a fifth of that. Lengths are millimetres.
//
// model.bin holds, part by part: for every face the number of its points (int32), their coordinates
// (3 doubles each) and normals (3 floats each), the number of its triangles (int32), three points each (int32);
// then for every edge the number of its points (int32) and their coordinates (3 doubles each).
#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <GCPnts_TangentialDeflection.hxx>
#include <GeomLib.hxx>
#include <Interface_Static.hxx>
#include <Message.hxx>
#include <Message_PrinterOStream.hxx>
#include <OSD.hxx>
#include <Poly_PolygonOnTriangulation.hxx>
#include <Poly_Triangulation.hxx>
#include <Quantity_ColorRGBA.hxx>
#include <Standard_ErrorHandler.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDF_Tool.hxx>
#include <TDataStd_Name.hxx>
#include <TDataStd_TreeNode.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_MaterialTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <fcntl.h>
#include <signal.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cmath>
#include <cstdlib>
#include <fstream>
#include <iostream>
#include <map>
#include <string>
#include <vector>

#include "exact-geometry.h"
#include "fineness.h"
#include "library-file.h"
#include "part-measures.h"

namespace {

// Components are walked no deeper: a file that contains itself would be walked for ever.
constexpr int kDeepest = 64;

std::string Utf8(const TCollection_ExtendedString& words) {
  std::vector<char> bytes(words.LengthOfCString() + 1);
  Standard_PCharacter at = bytes.data();
  words.ToUTF8CString(at);
  return bytes.data();
}

std::string NameOf(const TDF_Label& label) {
  Handle(TDataStd_Name) name;
  return label.FindAttribute(TDataStd_Name::GetID(), name) ? Utf8(name->Get()) : "";
}

class Reading {
 public:
  Reading(const std::string& folder) : json_file_(folder + "/model.json"), bin_(folder + "/model.bin", std::ios::binary), json_(json_file_) {}

  void Read(const std::string& file) {
    XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", document_);
    Interface_Static::SetCVal("xstep.cascade.unit", "MM");
    ReadInto(file, document_, measuring_);
    shapes_ = XCAFDoc_DocumentTool::ShapeTool(document_->Main());
    colours_ = XCAFDoc_DocumentTool::ColorTool(document_->Main());
    materials_ = XCAFDoc_DocumentTool::MaterialTool(document_->Main());
  }

  void Write() {
    json_.Open('{');
    TDF_LabelSequence roots;
    shapes_->GetFreeShapes(roots);
    json_.Key("components");
    json_.Open('[');
    for (int i = 1; i <= roots.Length(); i++) Component(roots.Value(i), "", 0);
    json_.Close(']');
    std::vector<TopoDS_Shape> shapes;
    for (const TDF_Label& part : parts_) shapes.push_back(shapes_->GetShape(part));
    const std::vector<std::unique_ptr<Measured>> measured = measuring_.All(shapes);
    json_.Key("parts");
    json_.Open('[');
    for (size_t i = 0; i < parts_.size(); i++) Part(parts_[i], *measured[i]);
    json_.Close(']');
    json_.Close('}');
    json_file_.flush();
    bin_.flush();
    if (!json_file_ || !bin_) throw Fault{"There is no room to write what was read."};
  }

 private:
  void Component(const TDF_Label& label, const std::string& instance, int depth) {
    TDF_Label product = label;
    if (shapes_->IsReference(label)) shapes_->GetReferredShape(label, product);
    json_.Open('{');
    json_.Key("name");
    json_.Text(NameOf(product));
    if (!instance.empty()) { json_.Key("instance"); json_.Text(instance); }
    Quantity_ColorRGBA colour;
    if (ColourOf(label, colour) || ColourOf(product, colour)) Colour(colour);
    const TopLoc_Location location = shapes_->GetLocation(label);
    if (!location.IsIdentity()) {
      const gp_Trsf placed = location.Transformation();
      json_.Key("placement");
      json_.Open('[');
      for (int row = 1; row <= 3; row++)
        for (int column = 1; column <= 4; column++) json_.Number(placed.Value(row, column));
      json_.Close(']');
    }
    if (shapes_->IsAssembly(product) && depth < kDeepest) {
      TDF_LabelSequence children;
      shapes_->GetComponents(product, children);
      json_.Key("children");
      json_.Open('[');
      for (int i = 1; i <= children.Length(); i++) Component(children.Value(i), NameOf(children.Value(i)), depth + 1);
      json_.Close(']');
    } else {
      TCollection_AsciiString entry;
      TDF_Tool::Entry(product, entry);
      const auto [at, is_new] = part_of_.try_emplace(entry.ToCString(), static_cast<int>(parts_.size()));
      if (is_new) parts_.push_back(product);
      json_.Key("part");
      json_.Number(at->second);
    }
    json_.Close('}');
  }

  bool ColourOf(const TDF_Label& label, Quantity_ColorRGBA& colour) const {
    return colours_->GetColor(label, XCAFDoc_ColorSurf, colour) || colours_->GetColor(label, XCAFDoc_ColorGen, colour) || colours_->GetColor(label, XCAFDoc_ColorCurv, colour);
  }

  void Colour(const Quantity_ColorRGBA& colour) {
    double red, green, blue;
    colour.GetRGB().Values(red, green, blue, Quantity_TOC_sRGB);
    json_.Key("colour");
    json_.Open('[');
    json_.Number(red);
    json_.Number(green);
    json_.Number(blue);
    json_.Number(colour.Alpha());
    json_.Close(']');
  }

  void Part(const TDF_Label& label, const Measured& measured) {
    json_.Open('{');
    json_.Key("name");
    json_.Text(NameOf(label));
    Material(label);
    json_.Key("deflection");
    json_.Number(measured.deflection);
    json_.Key("solids");
    json_.Number(measured.solids.Extent());
    double area = 0;
    json_.Key("faces");
    json_.Open('[');
    for (int i = 1; i <= measured.faces.Extent(); i++) area += Face(TopoDS::Face(measured.faces(i)), measured.areas[i - 1]);
    json_.Close(']');
    if (measured.faces.Extent() > 0) Mass(measured, area);
    TopTools_IndexedDataMapOfShapeListOfShape edges;
    if (!measured.shape.IsNull()) TopExp::MapShapesAndAncestors(measured.shape, TopAbs_EDGE, TopAbs_FACE, edges);
    json_.Key("edges");
    json_.Open('[');
    for (int i = 1; i <= edges.Extent(); i++) {
      const TopoDS_Edge& edge = TopoDS::Edge(edges.FindKey(i));
      if (!BRep_Tool::Degenerated(edge)) Edge(edge, edges.FindFromIndex(i), measured.faces, measured.deflection);
    }
    json_.Close(']');
    json_.Close('}');
  }

  void Material(const TDF_Label& label) {
    Handle(TCollection_HAsciiString) name, description, density_name, density_kind;
    double density = 0;
    Handle(TDataStd_TreeNode) node;
    if (!label.FindAttribute(XCAFDoc::MaterialRefGUID(), node) || !node->HasFather()) return;
    const TDF_Label material = node->Father()->Label();
    if (!materials_->GetMaterial(material, name, description, density, density_name, density_kind) || name.IsNull()) return;
    json_.Key("material");
    json_.Text(name->ToCString());
    if (density > 0) { json_.Key("density"); json_.Number(density); }
  }

  // The area is that of all its faces, which were measured one by one.
  void Mass(const Measured& measured, double area) {
    json_.Key("area");
    json_.Number(area);
    if (!measured.has_volume) return;
    json_.Key("volume");
    json_.Number(measured.volume);
    json_.Key("centre");
    json_.Point(measured.centre);
  }

  // Returns its area; 0 where that cannot be told.
  double Face(const TopoDS_Face& face, double area) {
    json_.Open('{');
    TopLoc_Location location;
    const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, location);
    const int triangles = mesh.IsNull() ? 0 : mesh->NbTriangles();
    json_.Key("triangles");
    json_.Number(triangles);
    Mesh(face, mesh, location);
    Quantity_ColorRGBA colour;
    if (colours_->GetColor(face, XCAFDoc_ColorSurf, colour) || colours_->GetColor(face, XCAFDoc_ColorGen, colour)) Colour(colour);
    if (!std::isnan(area)) { json_.Key("area"); json_.Number(area); }
    try {
      OCC_CATCH_SIGNALS
      WriteSurface(json_, face);
    } catch (const Standard_Failure&) {}
    json_.Close('}');
    return std::isnan(area) ? 0 : area;
  }

  void Mesh(const TopoDS_Face& face, const Handle(Poly_Triangulation) & mesh, const TopLoc_Location& location) {
    const int points = mesh.IsNull() ? 0 : mesh->NbNodes(), triangles = mesh.IsNull() ? 0 : mesh->NbTriangles();
    const bool is_reversed = face.Orientation() == TopAbs_REVERSED;
    const gp_Trsf placed = location.Transformation();
    Int(points);
    for (int i = 1; i <= points; i++) Doubles(mesh->Node(i).Transformed(placed).XYZ());
    TopLoc_Location on;
    const Handle(Geom_Surface) surface = BRep_Tool::Surface(face, on);
    for (int i = 1; i <= points; i++) {
      gp_Dir normal(0, 0, 1);
      bool is_known = false;
      try {
        OCC_CATCH_SIGNALS
        is_known = mesh->HasUVNodes() && !surface.IsNull() && GeomLib::NormEstim(surface, mesh->UVNode(i), Precision::Confusion(), normal) <= 1;
      } catch (const Standard_Failure&) {}
      if (is_known) {
        normal.Transform(on.Transformation());
        if (is_reversed) normal.Reverse();
      }
      const float bytes[3] = {is_known ? static_cast<float>(normal.X()) : 0, is_known ? static_cast<float>(normal.Y()) : 0, is_known ? static_cast<float>(normal.Z()) : 0};
      bin_.write(reinterpret_cast<const char*>(bytes), sizeof bytes);
    }
    Int(triangles);
    for (int i = 1; i <= triangles; i++) {
      int a, b, c;
      mesh->Triangle(i).Get(a, b, c);
      if (is_reversed != (placed.VectorialPart().Determinant() < 0)) std::swap(b, c);
      const int bytes[3] = {a - 1, b - 1, c - 1};
      bin_.write(reinterpret_cast<const char*>(bytes), sizeof bytes);
    }
  }

  void Edge(const TopoDS_Edge& edge, const TopTools_ListOfShape& on, const TopTools_IndexedMapOfShape& faces, double deflection) {
    json_.Open('{');
    json_.Key("faces");
    json_.Open('[');
    int sides = 0;
    for (const TopoDS_Shape& face : on) {
      if (sides++ < 2) json_.Number(faces.FindIndex(face) - 1);
    }
    json_.Close(']');
    try {
      OCC_CATCH_SIGNALS
      // A seam, or a line along which one face runs on into the next, is no edge to whoever looks.
      if (sides == 2) {
        const TopoDS_Face first = TopoDS::Face(on.First()), last = TopoDS::Face(on.Last());
        if (first.IsSame(last) || (BRep_Tool::HasContinuity(edge, first, last) && BRep_Tool::Continuity(edge, first, last) >= GeomAbs_G1)) {
          json_.Key("isSmooth");
          json_.True();
        }
      }
      const BRepAdaptor_Curve curve(edge);
      json_.Key("length");
      json_.Number(GCPnts_AbscissaPoint::Length(curve, 1e-7));
      WriteCurve(json_, curve);
    } catch (const Standard_Failure&) {}
    Polyline(edge, on, deflection);
    json_.Close('}');
  }

  void Polyline(const TopoDS_Edge& edge, const TopTools_ListOfShape& on, double deflection) {
    std::vector<gp_XYZ> points;
    try {
      OCC_CATCH_SIGNALS
      for (const TopoDS_Shape& face : on) {
        TopLoc_Location location;
        const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(TopoDS::Face(face), location);
        if (mesh.IsNull()) continue;
        const Handle(Poly_PolygonOnTriangulation) line = BRep_Tool::PolygonOnTriangulation(edge, mesh, location);
        if (line.IsNull()) continue;
        for (int i = 1; i <= line->NbNodes(); i++) points.push_back(mesh->Node(line->Node(i)).Transformed(location.Transformation()).XYZ());
        break;
      }
      if (points.empty()) {
        const BRepAdaptor_Curve curve(edge);
        const GCPnts_TangentialDeflection line(curve, kAngle, deflection);
        for (int i = 1; i <= line.NbPoints(); i++) points.push_back(line.Value(i).XYZ());
      }
    } catch (const Standard_Failure&) {}
    Int(static_cast<int>(points.size()));
    for (const gp_XYZ& point : points) Doubles(point);
  }

  void Int(int value) { bin_.write(reinterpret_cast<const char*>(&value), sizeof value); }
  void Doubles(const gp_XYZ& p) {
    const double bytes[3] = {p.X(), p.Y(), p.Z()};
    bin_.write(reinterpret_cast<const char*>(bytes), sizeof bytes);
  }

  Handle(TDocStd_Document) document_;
  Handle(XCAFDoc_ShapeTool) shapes_;
  Handle(XCAFDoc_ColorTool) colours_;
  Handle(XCAFDoc_MaterialTool) materials_;
  std::vector<TDF_Label> parts_;
  Measuring measuring_;
  std::map<std::string, int> part_of_;
  std::ofstream json_file_, bin_;
  Json json_;
};

// Of all processors together.
constexpr rlim_t kMostSeconds = 1800;

constexpr int kUnreadable = 3, kNoProcess = 1, kSignal = 128;

// Reads FOLDER/in; returns the exit code.
int ReadOne(const std::string& folder, rlim_t megabytes) {
  // What the library says stays where it is; its program's own streams belong to whoever asks.
  const int nothing = open("/dev/null", O_RDWR), said = chdir(folder.c_str()) == 0 ? open("said", O_WRONLY | O_CREAT | O_TRUNC, 0600) : -1;
  if (nothing < 0 || said < 0) return kNoProcess;
  dup2(nothing, STDIN_FILENO);
  dup2(nothing, STDOUT_FILENO);
  dup2(said, STDERR_FILENO);
  // Whoever waits for it ends it in time; where nobody does any more, it ends with the program that it was split off from, or by itself.
  prctl(PR_SET_PDEATHSIG, SIGKILL);
  const rlimit room{megabytes << 20, megabytes << 20}, time{kMostSeconds, kMostSeconds};
  setrlimit(RLIMIT_AS, &room);
  setrlimit(RLIMIT_CPU, &time);
  Message::DefaultMessenger()->RemovePrinters(STANDARD_TYPE(Message_PrinterOStream));
  // Damaged files make the library read where nothing is; the signal becomes an exception of the place where it happened.
  OSD::SetSignal(false);
  try {
    OCC_CATCH_SIGNALS
    Reading reading(".");
    reading.Read("in");
    reading.Write();
    // All is written: the system takes back in one what the library would piece by piece.
    std::_Exit(0);
  } catch (const Fault& fault) {
    std::cerr << fault.words << '\n';
  } catch (const std::bad_alloc&) {
    std::cerr << "The file needs more memory than a model may.\n";
  } catch (const Standard_Failure& failure) {
    std::cerr << "The file is damaged: reading it broke off.\n";
  }
  return kUnreadable;
}

}  // namespace

int main() {
  Prepare();
  std::string folder;
  for (rlim_t megabytes; std::cin >> megabytes && std::cin.get() == ' ' && std::getline(std::cin, folder);) {
    const pid_t one = fork();
    if (one == 0) std::_Exit(ReadOne(folder, megabytes));
    int ended = 0;
    const bool is_known = one > 0 && waitpid(one, &ended, 0) == one;
    std::cout << (!is_known ? kNoProcess : WIFEXITED(ended) ? WEXITSTATUS(ended) : kSignal + WTERMSIG(ended)) << std::endl;
  }
}

// A plate of 40 x 30 x 6 with a bore of 12: its bore's diameter is stated and drawn, and a note is drawn beside.
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRep_Builder.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <Interface_Static.hxx>
#include <STEPCAFControl_Controller.hxx>
#include <TCollection_HAsciiString.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDimTolObjects_DimensionObject.hxx>
#include <XCAFDoc_DimTolTool.hxx>
#include <XCAFDoc_Dimension.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <gp_Ax2.hxx>
static TopoDS_Shape Lines(std::initializer_list<std::pair<gp_Pnt, gp_Pnt>> all) { BRep_Builder b; TopoDS_Compound c; b.MakeCompound(c); for (auto& p : all) b.Add(c, BRepBuilderAPI_MakeEdge(p.first, p.second).Edge()); return c; }
int main() {
  Handle(TDocStd_Document) d; XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", d);
  auto t = XCAFDoc_DocumentTool::ShapeTool(d->Main()); auto g = XCAFDoc_DocumentTool::DimTolTool(d->Main());
  TopoDS_Shape s = BRepAlgoAPI_Cut(BRepPrimAPI_MakeBox(40, 30, 6).Shape(), BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(20, 15, -1), gp::DZ()), 6, 8).Shape()).Shape();
  auto l = t->AddShape(s, false); TDataStd_Name::Set(l, "Plate");
  TopoDS_Shape bore; for (TopExp_Explorer e(s, TopAbs_FACE); e.More(); e.Next()) if (BRepAdaptor_Surface(TopoDS::Face(e.Current())).GetType() == GeomAbs_Cylinder) bore = e.Current();
  auto on = t->AddSubShape(l, bore); auto label = g->AddDimension(); g->SetDimension(on, label);
  Handle(XCAFDoc_Dimension) dim; label.FindAttribute(XCAFDoc_Dimension::GetID(), dim);
  auto said = dim->GetObject(); said->SetType(XCAFDimTolObjects_DimensionType_Size_Diameter); said->SetValue(12); said->SetUpperTolValue(0.018); said->SetLowerTolValue(0);
  said->SetPlane(gp_Ax2(gp_Pnt(0, 0, 10), gp::DZ(), gp::DX())); said->SetPointTextAttach(gp_Pnt(45, 30, 10));
  said->SetPresentation(Lines({{gp_Pnt(26, 15, 10), gp_Pnt(45, 30, 10)}, {gp_Pnt(45, 30, 10), gp_Pnt(60, 30, 10)}}), new TCollection_HAsciiString("Bore"));
  dim->SetObject(said);
  STEPCAFControl_Controller::Init(); Interface_Static::SetIVal("write.step.schema", 5);
  STEPCAFControl_Writer w; w.SetNameMode(true); w.SetDimTolMode(true); w.Transfer(d, STEPControl_AsIs); w.Write("plate.stp");
}

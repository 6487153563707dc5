#include <STEPCAFControl_Writer.hxx>
#include <XCAFApp_Application.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <TopLoc_Location.hxx>
#include <gp_Trsf.hxx>
#include <Quantity_Color.hxx>
static Handle(TDocStd_Document) New() { Handle(TDocStd_Document) d; XCAFApp_Application::GetApplication()->NewDocument("BinXCAF", d); return d; }
static void Write(Handle(TDocStd_Document) d, const char* f, const char* multi) { STEPCAFControl_Writer w; w.SetColorMode(true); w.SetNameMode(true); w.Transfer(d, STEPControl_AsIs, multi); w.Write(f); }
static void One(const TopoDS_Shape& s, const char* name, const char* f) { auto d = New(); auto t = XCAFDoc_DocumentTool::ShapeTool(d->Main()); auto l = t->AddShape(s, false); TDataStd_Name::Set(l, name); XCAFDoc_DocumentTool::ColorTool(d->Main())->SetColor(l, Quantity_Color(0.2,0.4,0.5,Quantity_TOC_RGB), XCAFDoc_ColorGen); Write(d, f, nullptr); }
static TopLoc_Location At(double x, double y, double z) { gp_Trsf t; t.SetTranslation(gp_Vec(x,y,z)); return TopLoc_Location(t); }
int main() {
  TopoDS_Shape plate = BRepPrimAPI_MakeBox(60, 40, 5).Shape(), pin = BRepPrimAPI_MakeCylinder(4, 20).Shape();
  One(plate, "Tray plate", "TR-10 Tray plate.stp"); One(pin, "Tray pin", "tray-pin.stp");
  auto d = New(); auto t = XCAFDoc_DocumentTool::ShapeTool(d->Main());
  auto a = t->NewShape(); TDataStd_Name::Set(a, "Tray");
  auto p = t->AddShape(plate, false); TDataStd_Name::Set(p, "Tray plate");
  auto q = t->AddShape(pin, false); TDataStd_Name::Set(q, "Tray pin");
  t->AddComponent(a, p, At(0,0,0)); t->AddComponent(a, q, At(10,20,5)); t->AddComponent(a, q, At(50,20,5)); t->UpdateAssemblies();
  Write(d, "tray.stp", "x_");
}

#include <Interface_InterfaceModel.hxx>
#include <STEPCAFControl_Controller.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <StepGeom_Placement.hxx>
#include <StepShape_ManifoldSolidBrep.hxx>
#include <StepShape_ShapeRepresentation.hxx>
#include <TransferBRep.hxx>
#include <Transfer_TransientProcess.hxx>
#include <XCAFApp_Application.hxx>
#include <XSControl_TransferReader.hxx>
#include <XSControl_WorkSession.hxx>

#include <cstdio>
#include <vector>

#include "library-file.h"

namespace {

// The file that the library's scanner is given.
std::FILE* scanned = nullptr;

// The body that a representation consists of, besides where it stands; none where there are several, which are measured as one.
Handle(StepShape_ManifoldSolidBrep) OnlyBody(const Handle(StepShape_ShapeRepresentation)& representation) {
  Handle(StepShape_ManifoldSolidBrep) body;
  for (int i = 1; i <= representation->NbItems(); i++) {
    const Handle(StepRepr_RepresentationItem) item = representation->ItemsValue(i);
    if (item.IsNull() || item->IsKind(STANDARD_TYPE(StepGeom_Placement))) continue;
    if (!body.IsNull()) return {};
    body = Handle(StepShape_ManifoldSolidBrep)::DownCast(item);
    if (body.IsNull()) return {};
  }
  return body;
}

// Bodies are taken over one by one, before the products that they belong to are: the library finds them done then, and each can be
// measured while the next is taken over. One alone is left to be meshed by all processors.
void TakeBodies(STEPControl_Reader& reader, Measuring& measuring) {
  const Handle(Interface_InterfaceModel) model = reader.Model();
  std::vector<Handle(StepShape_ManifoldSolidBrep)> bodies;
  for (int i = 1; i <= model->NbEntities(); i++) {
    const Handle(StepShape_ShapeRepresentation) representation = Handle(StepShape_ShapeRepresentation)::DownCast(model->Value(i));
    const Handle(StepShape_ManifoldSolidBrep) body = representation.IsNull() ? nullptr : OnlyBody(representation);
    if (!body.IsNull()) bodies.push_back(body);
  }
  if (bodies.size() < 2) return;
  const Handle(XSControl_TransferReader) transfer = reader.WS()->TransferReader();
  transfer->BeginTransfer();
  for (const Handle(StepShape_ManifoldSolidBrep)& body : bodies) {
    if (transfer->TransferOne(body, false) == 0) continue;
    const TopoDS_Shape shape = TransferBRep::ShapeResult(transfer->TransientProcess(), body);
    if (!shape.IsNull()) measuring.Ahead(shape);
  }
  measuring.Wait();
}

}  // namespace

// The library's scanner was made for typing: it asks for one letter at a time, and after each goes over what it has of the word
// again, which is a sixth of all that reading takes. Its own function for that is found by its name like any other, so that this
// one stands in its place and gives as many letters as there is room for. Where a later library has none of that name, nothing is changed.
extern "C" int MoreLetters(void* scanner, char* to, int most) __asm__("_ZN13stepFlexLexer10LexerInputEPci");
extern "C" int MoreLetters(void*, char* to, int most) { return static_cast<int>(std::fread(to, 1, static_cast<size_t>(most), scanned)); }

void Prepare() {
  XCAFApp_Application::GetApplication();
  STEPCAFControl_Controller::Init();
}

void ReadInto(const std::string& file, Handle(TDocStd_Document)& document, Measuring& measuring) {
  scanned = std::fopen(file.c_str(), "rb");
  if (scanned == nullptr) throw Fault{"The file is not there."};
  STEPCAFControl_Reader reader;
  reader.SetColorMode(true);
  reader.SetNameMode(true);
  reader.SetMatMode(true);
  // What the file states of volumes, layers, dimensions and views is not asked of the library: a scan of our own gives it.
  reader.SetPropsMode(false);
  reader.SetLayerMode(false);
  reader.SetGDTMode(false);
  reader.SetViewMode(false);
  if (reader.ReadFile(file.c_str()) != IFSelect_RetDone) throw Fault{"The file is not STEP as its standard has it, or it is damaged."};
  TakeBodies(reader.ChangeReader(), measuring);
  if (!reader.Transfer(document)) throw Fault{"Nothing in the file is a shape that could be taken over."};
}

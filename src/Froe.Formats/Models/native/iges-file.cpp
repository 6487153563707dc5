#include <IGESCAFControl_Reader.hxx>
#include <IGESControl_Controller.hxx>
#include <XCAFApp_Application.hxx>

#include "library-file.h"

void Prepare() {
  XCAFApp_Application::GetApplication();
  IGESControl_Controller::Init();
}

void ReadInto(const std::string& file, Handle(TDocStd_Document)& document, Measuring&) {
  IGESCAFControl_Reader reader;
  reader.SetColorMode(true);
  reader.SetNameMode(true);
  reader.SetLayerMode(false);
  if (reader.ReadFile(file.c_str()) != IFSelect_RetDone) throw Fault{"The file is not IGES as its standard has it, or it is damaged."};
  if (!reader.Transfer(document)) throw Fault{"Nothing in the file is a shape that could be taken over."};
}

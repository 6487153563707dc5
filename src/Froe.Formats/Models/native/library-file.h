// A file as the library takes it over; which kind, the program says that is linked with one of the two.
#pragma once

#include <TDocStd_Document.hxx>

#include <string>

#include "part-measures.h"

// Why a file cannot be read, in words.
struct Fault { std::string words; };

// Makes what the library makes once for all files of this kind.
void Prepare();

// Parts that are there before the rest is are given to be measured. Throws Fault where the file cannot be read.
void ReadInto(const std::string& file, Handle(TDocStd_Document)& document, Measuring& measuring);

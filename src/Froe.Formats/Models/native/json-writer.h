// A writer of JSON that puts the commas.
#pragma once

#include <gp_XYZ.hxx>

#include <cmath>
#include <cstdio>
#include <ostream>
#include <string>

class Json {
 public:
  explicit Json(std::ostream& to) : to_(to) {}
  void Open(char bracket) { Comma(); to_ << bracket; first_ = true; }
  void Close(char bracket) { to_ << bracket; first_ = false; }
  void Key(const char* name) { Comma(); to_ << '"' << name << "\":"; first_ = true; }
  void Number(double value) {
    Comma();
    char text[32];
    if (std::isfinite(value)) std::snprintf(text, sizeof text, "%.15g", value);
    to_ << (std::isfinite(value) ? text : "null");
    first_ = false;
  }
  void True() { Comma(); to_ << "true"; first_ = false; }
  void Text(const std::string& value) {
    Comma();
    to_ << '"';
    for (const char c : value) {
      if (c == '"' || c == '\\') to_ << '\\' << c;
      else if (static_cast<unsigned char>(c) < 32) to_ << ' ';
      else to_ << c;
    }
    to_ << '"';
    first_ = false;
  }
  void Point(const gp_XYZ& p) { Open('['); Number(p.X()); Number(p.Y()); Number(p.Z()); Close(']'); }

 private:
  void Comma() { if (!first_) to_ << ','; first_ = false; }
  std::ostream& to_;
  bool first_ = true;
};

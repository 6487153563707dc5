// Says exactly what a face and an edge lie on.
#pragma once

#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <ShapeCustom_Surface.hxx>
#include <TopoDS_Face.hxx>

#include "json-writer.h"

// What a spline may differ by from the line, circle or surface that it is taken for, millimetres.
constexpr double kRecognised = 1e-4;

inline void Kind(Json& json, const char* what, const char* kind, const gp_Pnt& at, const gp_Dir* along) {
  json.Key(what);
  json.Text(kind);
  json.Key("at");
  json.Point(at.XYZ());
  if (along == nullptr) return;
  json.Key("along");
  json.Point(along->XYZ());
}

inline void Radius(Json& json, const char* name, double value) {
  json.Key(name);
  json.Number(value);
}

inline void WriteSurface(Json& json, const TopoDS_Face& face) {
  const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
  if (surface.IsNull()) return;
  GeomAdaptor_Surface on(surface);
  if (on.GetType() > GeomAbs_Torus) {
    ShapeCustom_Surface custom(surface);
    const Handle(Geom_Surface) simpler = custom.ConvertToAnalytical(kRecognised, true);
    if (!simpler.IsNull()) {
      on.Load(simpler);
      json.Key("recognised");
      json.True();
    }
  }
  const bool is_reversed = face.Orientation() == TopAbs_REVERSED;
  switch (on.GetType()) {
    case GeomAbs_Plane: {
      const gp_Pln plane = on.Plane();
      gp_Dir out = plane.Axis().Direction();
      if (plane.Direct() == is_reversed) out.Reverse();
      Kind(json, "surface", "plane", plane.Location(), &out);
      break;
    }
    case GeomAbs_Cylinder: {
      const gp_Cylinder cylinder = on.Cylinder();
      const gp_Dir along = cylinder.Axis().Direction();
      Kind(json, "surface", "cylinder", cylinder.Location(), &along);
      Radius(json, "radius", cylinder.Radius());
      if (cylinder.Direct() == is_reversed) { json.Key("isHollow"); json.True(); }
      break;
    }
    case GeomAbs_Cone: {
      const gp_Cone cone = on.Cone();
      const gp_Dir along = cone.Axis().Direction();
      Kind(json, "surface", "cone", cone.Location(), &along);
      Radius(json, "radius", cone.RefRadius());
      Radius(json, "angle", cone.SemiAngle());
      if (cone.Direct() == is_reversed) { json.Key("isHollow"); json.True(); }
      break;
    }
    case GeomAbs_Sphere:
      Kind(json, "surface", "sphere", on.Sphere().Location(), nullptr);
      Radius(json, "radius", on.Sphere().Radius());
      if (on.Sphere().Direct() == is_reversed) { json.Key("isHollow"); json.True(); }
      break;
    case GeomAbs_Torus: {
      const gp_Torus torus = on.Torus();
      const gp_Dir along = torus.Axis().Direction();
      Kind(json, "surface", "torus", torus.Location(), &along);
      Radius(json, "radius", torus.MajorRadius());
      Radius(json, "minor", torus.MinorRadius());
      break;
    }
    default: break;
  }
}

inline void WriteCurve(Json& json, const BRepAdaptor_Curve& curve) {
  const double from = curve.FirstParameter(), to = curve.LastParameter();
  switch (curve.GetType()) {
    case GeomAbs_Line: {
      const gp_Dir along = curve.Line().Direction();
      Kind(json, "curve", "line", curve.Value(from), &along);
      return;
    }
    case GeomAbs_Circle: {
      const gp_Circ circle = curve.Circle();
      const gp_Dir along = circle.Axis().Direction();
      Kind(json, "curve", "circle", circle.Location(), &along);
      Radius(json, "radius", circle.Radius());
      return;
    }
    case GeomAbs_Ellipse: {
      const gp_Elips ellipse = curve.Ellipse();
      const gp_Dir along = ellipse.Axis().Direction();
      Kind(json, "curve", "ellipse", ellipse.Location(), &along);
      Radius(json, "radius", ellipse.MajorRadius());
      Radius(json, "minor", ellipse.MinorRadius());
      return;
    }
    default: break;
  }
  // A spline that is a line or a circle is told by its points.
  constexpr int kSamples = 32;
  const gp_Pnt first = curve.Value(from), last = curve.Value(to), middle = curve.Value((from + to) / 2), late = curve.Value(from + ((to - from) * 0.83));
  const gp_Vec way(first, last);
  if (way.Magnitude() > 1e-9) {
    const gp_Lin line(first, gp_Dir(way));
    bool is_line = true;
    for (int i = 1; i < kSamples && is_line; i++) is_line = line.Distance(curve.Value(from + ((to - from) * i / kSamples))) <= kRecognised;
    if (is_line) {
      const gp_Dir along = line.Direction();
      json.Key("recognised");
      json.True();
      Kind(json, "curve", "line", first, &along);
      return;
    }
  }
  const gp_Vec a(first, middle), b(first, late), normal = a.Crossed(b);
  const double divisor = 2 * normal.SquareMagnitude();
  if (divisor < 1e-18) return;
  const gp_Vec to_centre = (normal.Crossed(a) * b.SquareMagnitude() + b.Crossed(normal) * a.SquareMagnitude()) / divisor;
  const gp_Circ circle(gp_Ax2(first.Translated(to_centre), gp_Dir(normal)), to_centre.Magnitude());
  for (int i = 0; i <= kSamples; i++)
    if (circle.Distance(curve.Value(from + ((to - from) * i / kSamples))) > kRecognised) return;
  const gp_Dir along = circle.Axis().Direction();
  json.Key("recognised");
  json.True();
  Kind(json, "curve", "circle", circle.Location(), &along);
  Radius(json, "radius", circle.Radius());
}

"""Writes small DXF files with ezdxf, one for each kind of entity: make-dxf.py FOLDER; prints their names, one a line."""
import math
import sys
from pathlib import Path

import ezdxf

folder = Path(sys.argv[1])


def made(name, version="R2010"):
    """A decorator that writes what a function draws."""

    def wrap(draw):
        document = ezdxf.new(version, setup=True)
        space = document.modelspace()
        # Every picture covers the same room.
        for corner in ((0, 0), (100, 80)):
            space.add_line(corner, (abs(corner[0] - 4), abs(corner[1] - 4)))
        draw(document, space)
        document.saveas(folder / f"{name}.dxf")
        print(name)

    return wrap


@made("lines")
def _(document, space):
    for i in range(12):
        space.add_line((8 + 7 * i, 10), (92 - 7 * i, 70))


@made("circles and arcs")
def _(document, space):
    space.add_circle((30, 40), 20)
    space.add_arc((70, 40), 20, 300, 120)
    space.add_arc((50, 40), 12, 10, 170, dxfattribs={"extrusion": (0, 0, -1)}).dxf.center = (-50, 40)


@made("ellipses")
def _(document, space):
    space.add_ellipse((50, 40), (35, 12), 0.4)
    space.add_ellipse((50, 40), (20, -10), 0.6, 0.5, 4)


@made("polylines with bulges")
def _(document, space):
    space.add_lwpolyline([(10, 10, 0.5), (60, 10, -0.3), (80, 60, 0), (20, 70, 1)], format="xyb", close=True)


@made("heavy polylines", "R12")
def _(document, space):
    space.add_polyline2d([(10, 10, 0.4), (80, 20, 0), (50, 70, -0.2)], format="xyb", close=True)
    space.add_polyline3d([(20, 60, 5), (40, 70, 9), (90, 30, 2)])


@made("splines")
def _(document, space):
    space.add_open_spline([(10, 10), (20, 70), (40, 5), (60, 75), (80, 10), (90, 60)])
    space.add_rational_spline([(10, 70), (40, 60), (60, 78), (90, 70)], [1, 5, 1, 1])


@made("insertions")
def _(document, space):
    inner = document.blocks.new("INNER")
    inner.add_arc((0, 0), 3, 20, 250)
    block = document.blocks.new("B")
    block.add_line((0, 0), (10, 5))
    block.add_circle((5, 5), 4)
    block.add_lwpolyline([(0, 0, 1), (4, 0, 0), (6, 8, 0.4)], format="xyb")
    plain = document.blocks.new("PLAIN")
    plain.add_circle((5, 5), 4)
    plain.add_lwpolyline([(0, 0, 1), (4, 0, 0), (6, 8, 0.4)], format="xyb")
    block.add_blockref("INNER", (8, 8), {"xscale": 1.4, "yscale": 1.4, "rotation": 40})
    space.add_blockref("B", (10, 10))
    space.add_blockref("PLAIN", (40, 20), {"xscale": 2, "yscale": 1, "rotation": 30})
    space.add_blockref("B", (85, 40), {"xscale": -1.5, "yscale": 1.5})
    space.add_blockref("B", (10, 45), {"column_count": 3, "row_count": 2, "column_spacing": 20, "row_spacing": 14})


@made("solids and faces")
def _(document, space):
    space.add_solid([(10, 10), (40, 10), (10, 40), (40, 40)])
    space.add_3dface([(50, 10), (90, 15), (80, 50), (55, 45)])


@made("filled hatches")
def _(document, space):
    hatch = space.add_hatch(color=5)
    hatch.paths.add_polyline_path([(10, 10), (90, 10), (90, 70), (10, 70)], is_closed=True, flags=1)
    hatch.paths.add_polyline_path([(30, 25, 1), (70, 25, 1)], is_closed=True, flags=0)
    edges = space.add_hatch(color=1).paths.add_edge_path()
    edges.add_ellipse((50, 25), (8, 0), 0.5, 0, 360)


@made("outermost islands")
def _(document, space):
    hatch = space.add_hatch(color=5, dxfattribs={"hatch_style": 1})
    for at, flags in ((0, 1), (10, 16), (20, 0)):
        hatch.paths.add_polyline_path([(10 + at, 10 + at), (90 - at, 10 + at), (90 - at, 70 - at), (10 + at, 70 - at)], is_closed=True, flags=flags)


@made("hatches by pattern")
def _(document, space):
    hatch = space.add_hatch(color=5)
    hatch.set_pattern_fill("ANSI31", scale=1.2)
    hatch.paths.add_polyline_path([(10, 10), (90, 10, 0.3), (90, 70), (10, 70)], is_closed=True, flags=1)


@made("dashes")
def _(document, space):
    document.linetypes.add("D", [10, 6, -4])
    space.add_line((5, 20), (95, 20), {"linetype": "D"})
    space.add_line((5, 30), (95, 60), {"linetype": "D", "ltscale": 0.5})


@made("dimensions")
def _(document, space):
    style = {"dimtxt": 0.01, "dimasz": 3, "dimblk": ""}
    space.add_linear_dim((50, 60), (20, 20), (80, 30), override=style).render()
    space.add_aligned_dim((20, 20), (80, 30), 12, override=style).render()


@made("leaders")
def _(document, space):
    space.add_leader([(20, 20), (40, 50), (70, 50)], dimstyle="EZDXF", override={"dimasz": 4})
    space.add_leader([(80, 20), (60, 60)], dimstyle="EZDXF", override={"dimasz": 5, "dimldrblk": "DOT"})


@made("lines side by side")
def _(document, space):
    space.add_mline([(10, 20), (50, 20), (80, 60)], close=False, dxfattribs={"scale_factor": 5})


@made("meshes")
def _(document, space):
    with space.add_mesh().edit_data() as mesh:
        mesh.vertices = [(20, 20, 0), (60, 20, 0), (60, 60, 0), (20, 60, 0), (90, 40, 0)]
        mesh.faces = [[0, 1, 2, 3], [1, 4, 2]]


@made("lines turned in space")
def _(document, space):
    away = (0.3, 0.4, math.sqrt(1 - 0.25))
    space.add_lwpolyline([(10, 10, 0.4), (40, 10, 0), (40, 40, 0)], format="xyb", close=True, dxfattribs={"extrusion": away, "elevation": 6})
    space.add_circle((40, 30), 14, {"extrusion": away})

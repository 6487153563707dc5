"""Draws a DXF file's model space with ezdxf and matplotlib, black on white, over a given box and as large as asked.

draw-dxf.py FILE PNG MINX MINY MAXX MAXY WIDTH HEIGHT
"""
import sys

import matplotlib

matplotlib.use("Agg")
import ezdxf
import matplotlib.pyplot as plt
from ezdxf.addons.drawing import Frontend, RenderContext
from ezdxf.addons.drawing.matplotlib import MatplotlibBackend

file, png = sys.argv[1:3]
box = [float(n) for n in sys.argv[3:7]]
width, height = (int(n) for n in sys.argv[7:9])
DPI = 100


class Black(RenderContext):
    """Every entity in black: what is compared is where there is ink."""

    def resolve_color(self, entity, **_):
        return "#000000"


document = ezdxf.readfile(file)
figure = plt.figure(figsize=(width / DPI, height / DPI), dpi=DPI)
axes = figure.add_axes([0, 0, 1, 1])
axes.set_axis_off()
context = Black(document)
context.set_current_layout(document.modelspace())
backend = MatplotlibBackend(axes)
Frontend(context, backend).draw_layout(document.modelspace(), finalize=False)
backend.finalize()
# Finishing fits the figure to what was drawn; what is wanted is the box.
figure.set_size_inches(width / DPI, height / DPI)
axes.set_position([0, 0, 1, 1])
axes.set_aspect("auto")
axes.set_xlim(box[0], box[2])
axes.set_ylim(box[1], box[3])
figure.patch.set_facecolor("white")
figure.savefig(png, dpi=DPI, facecolor="white")

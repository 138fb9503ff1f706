"""DXF files written and measured by programs that this project did not make.

drawings.py FOLDER writes into FOLDER and prints one JSON document, all in millimetres, y upwards:
  drawings: files that ezdxf wrote, and files that potrace traced from bitmaps: what ezdxf's own drawing front end draws of each, as lengths by colour and extent
  curves: files with one ellipse or spline, and its length as mpmath integrates it numerically (complete ellipses by its elliptic integral)
  colours: the index of colours as ezdxf has it
"""
import json
import math
import random
import subprocess
import sys

import ezdxf
import mpmath
from ezdxf.colors import DXF_DEFAULT_COLORS
from ezdxf.addons.drawing import Frontend, RenderContext
from ezdxf.addons.drawing.backend import Backend
from ezdxf.addons.drawing.config import Configuration

MM = {0: 1.0, 1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0, 9: 0.0254, 13: 0.001, 14: 100.0}


class Measuring(Backend):
    """Keeps lengths by colour and the extent; curves are cut into chords a ten-thousandth of a millimetre off."""

    def __init__(self, scale):
        super().__init__()
        self.scale, self.lengths, self.box = scale, {}, None

    def _add(self, points, properties, is_line=True):
        points = [(p.x * self.scale, p.y * self.scale) for p in points]
        colour = properties.color[:7].lower()
        # Colour 7 is white on a screen and black on paper.
        colour = "#000000" if colour == "#ffffff" else colour
        if is_line:
            self.lengths[colour] = self.lengths.get(colour, 0.0) + sum(math.dist(a, b) for a, b in zip(points, points[1:]))
        for x, y in points:
            b = self.box
            self.box = (x, y, x, y) if b is None else (min(b[0], x), min(b[1], y), max(b[2], x), max(b[3], y))

    def draw_line(self, start, end, properties):
        self._add([start, end], properties)

    def draw_path(self, path, properties):
        self._add(list(path.flattening(1e-4 / self.scale, segments=16)), properties)

    def draw_filled_polygon(self, points, properties):
        self._add(list(points), properties, is_line=False)

    def draw_filled_paths(self, paths, holes, properties):
        for path in paths:
            self._add(list(path.flattening(1e-4 / self.scale, segments=16)), properties, is_line=False)

    def draw_point(self, pos, properties):
        pass

    def draw_text(self, *args, **kwargs):
        pass

    def get_font_measurements(self, cap_height, font=None):
        from ezdxf.tools.fonts import FontMeasurements
        return FontMeasurements(0.0, cap_height, cap_height, cap_height / 3)

    def get_text_line_width(self, text, cap_height, font=None):
        return cap_height * len(text)

    def set_background(self, color):
        pass

    def clear(self):
        pass


def measure(path):
    doc = ezdxf.readfile(path)
    scale = MM[doc.header.get("$INSUNITS", 0)]
    backend = Measuring(scale)
    context = RenderContext(doc)
    frontend = Frontend(context, backend, config=Configuration.defaults())
    frontend.draw_layout(doc.modelspace(), finalize=False)
    return {"lengths": backend.lengths, "extent": backend.box, "version": doc.dxfversion}


def write(folder, seed):
    r = random.Random(seed)
    version = ["R12", "R2000", "R2004", "R2007", "R2010", "R2013", "R2018"][seed % 7]
    units = [0, 1, 4, 5, 6][seed % 5]
    doc = ezdxf.new(version)
    if version != "R12":
        doc.header["$INSUNITS"] = units
    else:
        units = 0
    size = 100.0 / MM[units]
    for name, colour in [("CUT", 1), ("SCORE", 5), ("Gravur ä", 96), ("odd", 37)]:
        doc.layers.add(name, color=colour)
    doc.layers.add("hidden", color=3).off()
    doc.layers.add("frozen", color=4).freeze()
    layers = ["0", "CUT", "SCORE", "Gravur ä", "odd", "hidden", "frozen"]
    # Of a block on a frozen layer ezdxf still draws what lies on other layers; CAD programs draw nothing of it.
    thawed = layers[:-1]
    msp = doc.modelspace()

    def p():
        return (r.uniform(-size, size), r.uniform(-size, size))

    def attribs(in_block=False, on=layers):
        a = {"layer": r.choice(on)}
        if r.random() < 0.5:
            a["color"] = r.choice([1, 2, 3, 4, 5, 6, 30, 47, 99, 144, 200, 213, 256] + ([0] if in_block else []))
        if version not in ("R12", "R2000") and r.random() < 0.2:
            a["true_color"] = r.randrange(1, 0xFFFFFE)
        return a

    def extruded(a):
        if r.random() < 0.25:
            a["extrusion"] = r.choice([(0, 0, -1), (0, 0, 1)])
        return a

    def fill(space, n, in_block=False):
        for _ in range(n):
            kind, a = r.randrange(9), attribs(in_block)
            if kind == 0:
                space.add_line(p(), p(), dxfattribs=a)
            elif kind == 1:
                space.add_arc(p(), r.uniform(0.1, 0.6) * size, r.uniform(0, 360), r.uniform(0, 360), dxfattribs=extruded(a))
            elif kind == 2:
                space.add_circle(p(), r.uniform(0.05, 0.6) * size, dxfattribs=extruded(a))
            elif kind == 3:
                points = [(*p(), 0, 0, r.choice([0, 0, r.uniform(-1.5, 1.5)])) for _ in range(r.randrange(2, 7))]
                if version == "R12":
                    line = space.add_polyline2d([q[:2] for q in points], dxfattribs=a)
                    for vertex, q in zip(line.vertices, points):
                        vertex.dxf.bulge = q[4]
                    if r.random() < 0.5:
                        line.close(True)
                else:
                    space.add_lwpolyline(points, close=r.random() < 0.5, dxfattribs=extruded(a))
            elif kind == 4 and version != "R12":
                angle, long = r.uniform(0, 6), r.uniform(0.1, 0.6) * size
                space.add_ellipse(p(), (long * math.cos(angle), long * math.sin(angle)), r.uniform(0.1, 1), r.choice([0, r.uniform(0, 3)]), r.choice([math.tau, r.uniform(3, 6)]), dxfattribs=a)
            elif kind == 5 and version != "R12":
                degree = r.randrange(2, 6)
                points = [p() for _ in range(degree + r.randrange(1, 6))]
                if r.random() < 0.4:
                    space.add_rational_spline(points, [r.uniform(0.3, 4) for _ in points], degree=degree, dxfattribs=a)
                else:
                    space.add_open_spline(points, degree=degree, dxfattribs=a)
            elif kind == 6:
                space.add_polyline3d([(*p(), r.uniform(0, size)) for _ in range(4)], dxfattribs=a)
            elif kind == 7:
                space.add_solid([p(), p(), p(), p()], dxfattribs=a)
            else:
                space.add_line((*p(), r.uniform(0, size)), p(), dxfattribs=a)

    inner = doc.blocks.new("inner", base_point=p())
    fill(inner, 4, True)
    outer = doc.blocks.new("Outer Block", base_point=p())
    fill(outer, 3, True)
    outer.add_blockref("INNER", p(), dxfattribs={**attribs(True, thawed), "xscale": r.uniform(0.2, 1), "yscale": r.uniform(-1, -0.2), "rotation": r.uniform(0, 360)})
    fill(msp, 12)
    for _ in range(3):
        k = r.uniform(0.2, 0.8)
        a = {**attribs(on=thawed), "xscale": k, "yscale": r.choice([k, -k]), "rotation": r.uniform(0, 360)}
        if r.random() < 0.5:
            a.update(column_count=3, row_count=2, column_spacing=size / 3, row_spacing=size / 5)
        msp.add_blockref("Outer Block", p(), dxfattribs=extruded(a))
    paper = doc.layout("Layout1") if version != "R12" else None
    if paper is not None:
        paper.add_line((0, 0), (5000, 5000))
    path = f"{folder}/made-{seed:02d}.dxf"
    doc.saveas(path)
    return path


def trace(folder, seed):
    """A bitmap of discs and bars, traced by potrace, which writes polylines with bulges or straight ones."""
    r = random.Random(seed)
    size = 240
    discs = [(r.uniform(0, size), r.uniform(0, size), r.uniform(8, 60)) for _ in range(6)]
    rows = []
    for y in range(size):
        rows.append(" ".join("1" if any((x - a) ** 2 + (y - b) ** 2 < c * c for a, b, c in discs) != ((x // 40 + y // 60) % 5 == 0) else "0" for x in range(size)))
    bitmap, path = f"{folder}/traced-{seed}.pbm", f"{folder}/traced-{seed}.dxf"
    with open(bitmap, "w") as f:
        f.write(f"P1\n{size} {size}\n" + "\n".join(rows) + "\n")
    subprocess.run(["potrace", "-b", "dxf", "-o", path, bitmap], check=True)
    return path


def curve(folder, seed):
    r = random.Random(1000 + seed)
    doc = ezdxf.new("R2010")
    doc.header["$INSUNITS"] = 4
    msp = doc.modelspace()
    if seed % 2 == 0:
        angle, long, ratio = r.uniform(0, 6), r.uniform(5, 80), r.uniform(0.05, 1)
        first, last = (0, math.tau) if seed % 4 == 0 else (r.uniform(0, 3), r.uniform(3.1, 6.2))
        msp.add_ellipse((r.uniform(-50, 50), 7), (long * math.cos(angle), long * math.sin(angle)), ratio, first, last)
        if seed % 4 == 0:
            length = 4 * long * mpmath.ellipe(1 - ratio * ratio)
        else:
            length = mpmath.quad(lambda t: long * mpmath.sqrt(mpmath.sin(t) ** 2 + (ratio * mpmath.cos(t)) ** 2), mpmath.linspace(first, last, 9))
    else:
        degree = r.randrange(2, 7)
        points = [(r.uniform(-60, 60), r.uniform(-60, 60)) for _ in range(degree + r.randrange(1, 7))]
        if seed % 3 == 0:
            spline = msp.add_rational_spline(points, [r.uniform(0.3, 5) for _ in points], degree=degree)
        else:
            spline = msp.add_open_spline(points, degree=degree)
        tool = spline.construction_tool()
        knots = sorted(set(tool.knots()))
        end = knots[-1]

        def speed(t):
            _, d = tool.derivative(min(float(t), end * (1 - 1e-12)), 1)
            return math.hypot(d.x, d.y)

        length = sum(mpmath.quad(speed, mpmath.linspace(a, b, 9)) for a, b in zip(knots, knots[1:]))
    path = f"{folder}/curve-{seed:02d}.dxf"
    doc.saveas(path)
    return path, float(length)


if __name__ == "__main__":
    if sys.argv[1] == "--measure":
        # Files that somebody else wrote: what ezdxf draws of them, and how many faults its audit finds.
        answer = {}
        for path in sys.argv[2:]:
            measured = measure(path)
            measured["faults"] = len(ezdxf.readfile(path).audit().errors)
            answer[path] = measured
        print(json.dumps(answer))
        sys.exit(0)
    folder = sys.argv[1]
    files = [write(folder, seed) for seed in range(42)] + [trace(folder, seed) for seed in range(6)]
    json.dump(
        {
            "drawings": {path: measure(path) for path in files},
            "curves": dict(curve(folder, seed) for seed in range(48)),
            "colours": ["#%06x" % c for c in DXF_DEFAULT_COLORS],
        },
        sys.stdout,
    )

import type { View } from "../camera/view";
import { RUN_LENGTH, type PreparedSheet } from "./preparedSheet";
import type { Painter } from "./painter";

/** Segments a texture row holds. */
const ROW = 2048;
/** Up to this many segments in view are drawn as bands with their weight and smooth edges; more as hairlines. */
const MOST_BANDS = 60_000;
/** Segments drawn between two looks at the clock. */
const SLICE = 16 * RUN_LENGTH;
/** Milliseconds of drawing before the page gets a turn. */
const TURN = 24;

const FETCH = `#version 300 es
precision highp float;
precision highp usampler2D;
uniform sampler2D segments;
uniform usampler2D segmentStyle;
uniform sampler2D styles;
uniform vec4 view; // centre x, centre y, 2 * scale / width, 2 * scale / height
vec4 styleOf(uint style) { return texelFetch(styles, ivec2(int(style) & 2047, int(style) >> 11), 0); }
`;

const HAIRLINE = `${FETCH}
flat out vec3 ink;
void main() {
  int id = gl_VertexID >> 1;
  ivec2 at = ivec2(id & 2047, id >> 11);
  vec4 s = texelFetch(segments, at, 0);
  vec4 style = styleOf(texelFetch(segmentStyle, at, 0).r);
  ink = style.rgb;
  vec2 p = (gl_VertexID & 1) == 0 ? s.xy : s.zw;
  gl_Position = style.a > 0.0 ? vec4((p - view.xy) * view.zw, 0.0, 1.0) : vec4(2.0, 2.0, 2.0, 1.0);
}`;

const BAND = `${FETCH}
uniform float widthUnit; // pixels per alpha step of a style
uniform vec2 pixels;     // half size of the picture in pixels
flat out vec3 ink;
out float across;
flat out float halfWidth;
flat out float strength; // a line too fine to have its width keeps its rank by being paler
void main() {
  int id = gl_VertexID / 6, corner = gl_VertexID % 6;
  ivec2 at = ivec2(id & 2047, id >> 11);
  vec4 s = texelFetch(segments, at, 0);
  vec4 style = styleOf(texelFetch(segmentStyle, at, 0).r);
  ink = style.rgb;
  vec2 a = (s.xy - view.xy) * view.zw * pixels, b = (s.zw - view.xy) * view.zw * pixels;
  vec2 d = b - a;
  float len = length(d);
  d = len > 1e-6 ? d / len : vec2(1.0, 0.0);
  halfWidth = max(0.5, style.a * 255.0 * widthUnit * 0.5);
  strength = halfWidth > 0.5 ? 1.0 : min(1.0, 0.4 + style.a * 255.0 / 50.0 * 1.2);
  float reach = halfWidth + 0.75;
  float side = (corner == 0 || corner == 2 || corner == 3) ? -1.0 : 1.0;
  bool end = corner == 2 || corner == 3 || corner == 5;
  vec2 p = (end ? b + d * halfWidth * 0.5 : a - d * halfWidth * 0.5) + vec2(-d.y, d.x) * side * reach;
  across = side * reach;
  gl_Position = style.a > 0.0 ? vec4(p / pixels, 0.0, 1.0) : vec4(2.0, 2.0, 2.0, 1.0);
}`;

const FLAT_INK = `#version 300 es
precision mediump float;
flat in vec3 ink;
out vec4 colour;
void main() { colour = vec4(ink, 1.0); }`;

const SOFT_INK = `#version 300 es
precision mediump float;
flat in vec3 ink;
in float across;
flat in float halfWidth;
flat in float strength;
out vec4 colour;
void main() {
  float cover = clamp(halfWidth + 0.5 - abs(across), 0.0, 1.0) * strength;
  colour = vec4(ink * cover, cover);
}`;

const FILL = `#version 300 es
precision highp float;
uniform sampler2D styles;
uniform vec4 view;
layout(location = 0) in vec2 point;
layout(location = 1) in float style;
flat out vec3 ink;
void main() {
  int id = int(style);
  vec4 s = texelFetch(styles, ivec2(id & 2047, id >> 11), 0);
  ink = s.rgb;
  gl_Position = s.a > 0.0 ? vec4((point - view.xy) * view.zw, 0.0, 1.0) : vec4(2.0, 2.0, 2.0, 1.0);
}`;

/**
 * Draws one sheet with WebGL2. Segments lie in a texture and are fetched by vertex number, so that hairlines and
 * bands need no buffers of their own and a layer is hidden by one texel. A picture is drawn off screen in turns and
 * shown when it is whole; until then the last one stays and is moved with the page.
 */
export class StrokePainter implements Painter {
  readonly isCostly = false;
  /** Drawing a large sheet takes a second of this very page. */
  readonly rest = 140;
  private readonly gl: WebGL2RenderingContext;
  private readonly hairline: WebGLProgram;
  private readonly band: WebGLProgram;
  private readonly fill: WebGLProgram;
  private readonly segments: WebGLTexture;
  private readonly segmentStyle: WebGLTexture;
  private readonly styles: WebGLTexture;
  private readonly empty: WebGLVertexArrayObject;
  private readonly fills: WebGLVertexArrayObject;
  private readonly target: WebGLFramebuffer;
  private readonly picture: WebGLTexture;
  private size = { width: 0, height: 0 };
  private run = 0;
  private readonly count: number;
  private readonly triangles: number;

  /** Throws when the browser has no WebGL2 or the sheet is larger than its textures. */
  constructor(
    readonly canvas: HTMLCanvasElement,
    private readonly sheet: PreparedSheet,
  ) {
    const gl = canvas.getContext("webgl2", {
      alpha: true,
      antialias: false,
      depth: false,
      preserveDrawingBuffer: true,
      premultipliedAlpha: true,
    });
    if (!gl) throw new Error("This browser cannot draw sheets: WebGL2 is missing or switched off.");
    this.gl = gl;
    this.count = sheet.segmentEntity.length;
    this.triangles = sheet.triangleEntity.length;
    const rows = Math.max(1, Math.ceil(this.count / ROW));
    if (rows > (gl.getParameter(gl.MAX_TEXTURE_SIZE) as number))
      throw new Error("This sheet has more strokes than this machine's graphics can hold.");
    this.hairline = program(gl, HAIRLINE, FLAT_INK);
    this.band = program(gl, BAND, SOFT_INK);
    this.fill = program(gl, FILL, FLAT_INK);
    const coords = new Float32Array(rows * ROW * 4);
    coords.set(sheet.segments);
    this.segments = texture(gl);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32F, ROW, rows, 0, gl.RGBA, gl.FLOAT, coords);
    const style = new Uint16Array(rows * ROW);
    for (let i = 0; i < this.count; i++) style[i] = sheet.entityStyle[sheet.segmentEntity[i]!]!;
    this.segmentStyle = texture(gl);
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.R16UI, ROW, rows, 0, gl.RED_INTEGER, gl.UNSIGNED_SHORT, style);
    this.styles = texture(gl);
    this.empty = gl.createVertexArray()!;
    this.fills = this.uploadFills();
    this.picture = texture(gl);
    this.target = gl.createFramebuffer()!;
    this.showLayers(sheet.layers.map((l) => l.isOn));
  }

  /** Shows and hides layers, from the next picture on. */
  showLayers(on: readonly boolean[]) {
    const { gl, sheet } = this;
    const rows = Math.max(1, Math.ceil(sheet.styles.length / ROW));
    const texels = new Uint8Array(rows * ROW * 4);
    sheet.styles.forEach(([layer, rgb, weight], i) => {
      // Alpha carries the weight in 1/50 mm, at least 1; 0 hides.
      const alpha = on[layer] ? Math.min(255, Math.max(1, Math.round(weight / 2))) : 0;
      texels.set([(rgb >> 16) & 255, (rgb >> 8) & 255, rgb & 255, alpha], i * 4);
    });
    gl.bindTexture(gl.TEXTURE_2D, this.styles);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA, ROW, rows, 0, gl.RGBA, gl.UNSIGNED_BYTE, texels);
  }

  /** How many segments the runs in view hold. */
  inView(view: View, width: number, height: number): number {
    return this.runsInView(view, width, height).reduce((n, [, count]) => n + count, 0);
  }

  async draw(
    view: View,
    width: number,
    height: number,
    _window: { width: number; height: number },
    ratio: number,
    millimetre: number,
    onBegun: () => void,
  ): Promise<boolean> {
    const turn = ++this.run;
    const { gl } = this;
    const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)];
    this.resize(w, h);
    gl.bindFramebuffer(gl.FRAMEBUFFER, this.target);
    gl.viewport(0, 0, w, h);
    gl.clearColor(0, 0, 0, 0);
    gl.clear(gl.COLOR_BUFFER_BIT);
    gl.enable(gl.BLEND);
    gl.blendFunc(gl.ONE, gl.ONE_MINUS_SRC_ALPHA);
    const matrix: [number, number, number, number] = [
      view.x,
      view.y,
      (2 * view.scale) / width,
      (2 * view.scale) / height,
    ];
    if (this.triangles > 0) {
      this.use(this.fill, matrix);
      gl.bindVertexArray(this.fills);
      gl.drawArrays(gl.TRIANGLES, 0, this.triangles * 3);
    }
    const runs = this.runsInView(view, width, height);
    const bands = runs.reduce((n, [, count]) => n + count, 0) <= MOST_BANDS;
    this.use(bands ? this.band : this.hairline, matrix);
    if (bands) {
      gl.uniform1f(gl.getUniformLocation(this.band, "widthUnit"), (view.scale * ratio * millimetre) / 50);
      gl.uniform2f(gl.getUniformLocation(this.band, "pixels"), w / 2, h / 2);
    }
    gl.bindVertexArray(this.empty);
    let since = performance.now();
    for (const [first, count] of runs)
      for (let from = first; from < first + count; from += SLICE) {
        const n = Math.min(SLICE, first + count - from);
        if (bands) gl.drawArrays(gl.TRIANGLES, from * 6, n * 6);
        else gl.drawArrays(gl.LINES, from * 2, n * 2);
        if (n < RUN_LENGTH || performance.now() - since < TURN / 8) continue;
        // Without this the driver would queue the whole sheet and then hold up the page.
        gl.finish();
        if (performance.now() - since < TURN) continue;
        await nextTurn();
        if (turn !== this.run) return false;
        since = performance.now();
        gl.bindFramebuffer(gl.FRAMEBUFFER, this.target);
      }
    gl.finish();
    // The canvas takes its new size only now: resizing clears it, and the old picture must stay till the new one is whole.
    if (this.canvas.width !== w) this.canvas.width = w;
    if (this.canvas.height !== h) this.canvas.height = h;
    gl.bindFramebuffer(gl.READ_FRAMEBUFFER, this.target);
    gl.bindFramebuffer(gl.DRAW_FRAMEBUFFER, null);
    gl.blitFramebuffer(0, 0, w, h, 0, 0, w, h, gl.COLOR_BUFFER_BIT, gl.NEAREST);
    onBegun();
    return true;
  }

  showMarks() {
    // A drawing's strokes are all its own.
  }

  /** Gives everything back to the graphics card. */
  dispose() {
    this.run++;
    this.gl.getExtension("WEBGL_lose_context")?.loseContext();
  }

  /** First segment and count of stretches of neighbouring runs whose box meets the view. */
  private runsInView(view: View, width: number, height: number): [number, number][] {
    const [halfWidth, halfHeight] = [width / 2 / view.scale, height / 2 / view.scale];
    const { runs } = this.sheet;
    const found: [number, number][] = [];
    for (let r = 0; r * 4 < runs.length; r++) {
      const outside =
        runs[r * 4]! > view.x + halfWidth ||
        runs[r * 4 + 2]! < view.x - halfWidth ||
        runs[r * 4 + 1]! > view.y + halfHeight ||
        runs[r * 4 + 3]! < view.y - halfHeight;
      if (outside) continue;
      const [first, count] = [r * RUN_LENGTH, Math.min(RUN_LENGTH, this.count - r * RUN_LENGTH)];
      const last = found.at(-1);
      if (last && last[0] + last[1] === first) last[1] += count;
      else found.push([first, count]);
    }
    return found;
  }

  private use(p: WebGLProgram, view: [number, number, number, number]) {
    const { gl } = this;
    gl.useProgram(p);
    gl.uniform4f(gl.getUniformLocation(p, "view"), ...view);
    for (const [unit, name, held] of [
      [0, "segments", this.segments],
      [1, "segmentStyle", this.segmentStyle],
      [2, "styles", this.styles],
    ] as const) {
      gl.activeTexture(gl.TEXTURE0 + unit);
      gl.bindTexture(gl.TEXTURE_2D, held);
      gl.uniform1i(gl.getUniformLocation(p, name), unit);
    }
  }

  private uploadFills(): WebGLVertexArrayObject {
    const { gl, sheet } = this;
    const data = new Float32Array(this.triangles * 9);
    for (let i = 0; i < this.triangles; i++)
      for (let k = 0; k < 3; k++) {
        data[i * 9 + k * 3] = sheet.triangles[i * 6 + k * 2]!;
        data[i * 9 + k * 3 + 1] = sheet.triangles[i * 6 + k * 2 + 1]!;
        data[i * 9 + k * 3 + 2] = sheet.entityStyle[sheet.triangleEntity[i]!]!;
      }
    const array = gl.createVertexArray()!;
    gl.bindVertexArray(array);
    gl.bindBuffer(gl.ARRAY_BUFFER, gl.createBuffer());
    gl.bufferData(gl.ARRAY_BUFFER, data, gl.STATIC_DRAW);
    gl.enableVertexAttribArray(0);
    gl.vertexAttribPointer(0, 2, gl.FLOAT, false, 12, 0);
    gl.enableVertexAttribArray(1);
    gl.vertexAttribPointer(1, 1, gl.FLOAT, false, 12, 8);
    return array;
  }

  private resize(width: number, height: number) {
    if (this.size.width === width && this.size.height === height) return;
    this.size = { width, height };
    const { gl } = this;
    gl.activeTexture(gl.TEXTURE0);
    gl.bindTexture(gl.TEXTURE_2D, this.picture);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA8, width, height, 0, gl.RGBA, gl.UNSIGNED_BYTE, null);
    gl.bindFramebuffer(gl.FRAMEBUFFER, this.target);
    gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, this.picture, 0);
  }
}

/** Lets the page handle what has come in; a message comes sooner than a timer. */
function nextTurn(): Promise<void> {
  return new Promise((resolve) => {
    const channel = new MessageChannel();
    channel.port1.onmessage = () => {
      channel.port1.close();
      resolve();
    };
    channel.port2.postMessage(null);
  });
}

function texture(gl: WebGL2RenderingContext): WebGLTexture {
  const made = gl.createTexture();
  gl.bindTexture(gl.TEXTURE_2D, made);
  for (const name of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER]) gl.texParameteri(gl.TEXTURE_2D, name, gl.NEAREST);
  for (const name of [gl.TEXTURE_WRAP_S, gl.TEXTURE_WRAP_T]) gl.texParameteri(gl.TEXTURE_2D, name, gl.CLAMP_TO_EDGE);
  return made;
}

function program(gl: WebGL2RenderingContext, vertex: string, fragment: string): WebGLProgram {
  const made = gl.createProgram();
  for (const [kind, source] of [
    [gl.VERTEX_SHADER, vertex],
    [gl.FRAGMENT_SHADER, fragment],
  ] as const) {
    const shader = gl.createShader(kind)!;
    gl.shaderSource(shader, source);
    gl.compileShader(shader);
    gl.attachShader(made, shader);
    if (!gl.getShaderParameter(shader, gl.COMPILE_STATUS))
      throw new Error(gl.getShaderInfoLog(shader) ?? "A shader did not compile.");
  }
  gl.linkProgram(made);
  if (!gl.getProgramParameter(made, gl.LINK_STATUS))
    throw new Error(gl.getProgramInfoLog(made) ?? "Shaders did not link.");
  return made;
}

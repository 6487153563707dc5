/** Segments a texture row holds. */
export const ROW = 2048;

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
 * The graphics that sheets are drawn with: one context and its programs for all of them, as long as the page is open. Making one
 * takes longer than drawing a usual sheet, and a browser holds few. What is drawn is handed to each sheet's own canvas as a picture.
 */
export class StrokeEngine {
  readonly gl: WebGL2RenderingContext;
  readonly hairline: WebGLProgram;
  readonly band: WebGLProgram;
  readonly fill: WebGLProgram;
  readonly empty: WebGLVertexArrayObject;
  private readonly canvas = new OffscreenCanvas(1, 1);
  private static kept: StrokeEngine | null = null;

  /** The page's own; another once the graphics of the last were taken away. Throws when the browser has no WebGL2. */
  static open(): StrokeEngine {
    if (!this.kept || this.kept.isLost) this.kept = new StrokeEngine();
    return this.kept;
  }

  private constructor() {
    const gl = this.canvas.getContext("webgl2", {
      alpha: true,
      antialias: false,
      depth: false,
      premultipliedAlpha: true,
    });
    if (!gl) throw new Error("This browser cannot draw sheets: WebGL2 is missing or switched off.");
    this.gl = gl;
    this.hairline = program(gl, HAIRLINE, FLAT_INK);
    this.band = program(gl, BAND, SOFT_INK);
    this.fill = program(gl, FILL, FLAT_INK);
    this.empty = gl.createVertexArray();
    gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
  }

  /** Whether the machine has taken its graphics back: what was held in them is gone. */
  get isLost() {
    return this.gl.isContextLost();
  }

  texture(): WebGLTexture {
    const { gl } = this;
    const made = gl.createTexture();
    gl.bindTexture(gl.TEXTURE_2D, made);
    for (const name of [gl.TEXTURE_MIN_FILTER, gl.TEXTURE_MAG_FILTER])
      gl.texParameteri(gl.TEXTURE_2D, name, gl.NEAREST);
    for (const name of [gl.TEXTURE_WRAP_S, gl.TEXTURE_WRAP_T]) gl.texParameteri(gl.TEXTURE_2D, name, gl.CLAMP_TO_EDGE);
    return made;
  }

  /** Puts what was drawn, of so many pixels, onto a canvas that shows pictures; it takes their size. */
  show(drawn: WebGLFramebuffer, width: number, height: number, on: ImageBitmapRenderingContext) {
    const { gl, canvas } = this;
    if (canvas.width !== width) canvas.width = width;
    if (canvas.height !== height) canvas.height = height;
    gl.bindFramebuffer(gl.READ_FRAMEBUFFER, drawn);
    gl.bindFramebuffer(gl.DRAW_FRAMEBUFFER, null);
    gl.blitFramebuffer(0, 0, width, height, 0, 0, width, height, gl.COLOR_BUFFER_BIT, gl.NEAREST);
    // Its size says what is in it to whoever copies from it; setting it clears it, so only when it changes and just before.
    if (on.canvas.width !== width) on.canvas.width = width;
    if (on.canvas.height !== height) on.canvas.height = height;
    on.transferFromImageBitmap(canvas.transferToImageBitmap());
  }
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

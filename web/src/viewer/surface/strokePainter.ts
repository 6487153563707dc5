import type { View } from "../camera/view";
import { RUN_LENGTH, type PreparedSheet } from "./preparedSheet";
import type { Painter } from "./painter";
import { ROW, StrokeEngine } from "./strokeEngine";

/** Up to this many segments in view are drawn as bands with their weight and smooth edges; more as hairlines. */
const MOST_BANDS = 60_000;
/** Segments drawn between two looks at the clock. */
const SLICE = 16 * RUN_LENGTH;
/** Milliseconds of drawing before the page gets a turn. */
const TURN = 24;

/** A sheet as the graphics hold it. */
type Held = {
  engine: StrokeEngine;
  segments: WebGLTexture;
  segmentStyle: WebGLTexture;
  styles: WebGLTexture;
  fills: WebGLVertexArrayObject;
  corners: WebGLBuffer;
  target: WebGLFramebuffer;
  picture: WebGLTexture;
  size: { width: number; height: number };
};

/**
 * Draws one sheet with WebGL2. Segments lie in a texture and are fetched by vertex number, so that hairlines and
 * bands need no buffers of their own and a layer is hidden by one texel. A picture is drawn off screen in turns and
 * shown when it is whole; until then the last one stays and is moved with the page.
 */
export class StrokePainter implements Painter {
  readonly isCostly = false;
  /** Drawing a large sheet takes a second of this very page. */
  readonly rest = 140;
  private readonly shown: ImageBitmapRenderingContext;
  private held: Held;
  private on: readonly boolean[];
  private run = 0;
  private readonly count: number;
  private readonly triangles: number;

  /** Throws when the browser has no WebGL2 or the sheet is larger than its textures. */
  constructor(
    canvas: HTMLCanvasElement,
    private readonly sheet: PreparedSheet,
    private readonly onFault: (words: string) => void,
  ) {
    this.shown = canvas.getContext("bitmaprenderer")!;
    this.count = sheet.segmentEntity.length;
    this.triangles = sheet.triangleEntity.length;
    this.on = sheet.layers.map((l) => l.isOn);
    this.held = this.hold(StrokeEngine.open());
  }

  /** Puts the sheet into the graphics. */
  private hold(engine: StrokeEngine): Held {
    const { gl } = engine;
    const { sheet } = this;
    const rows = Math.max(1, Math.ceil(this.count / ROW));
    if (rows > (gl.getParameter(gl.MAX_TEXTURE_SIZE) as number))
      throw new Error("This sheet has more strokes than this machine's graphics can hold.");
    const coords = new Float32Array(rows * ROW * 4);
    coords.set(sheet.segments);
    const segments = engine.texture();
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA32F, ROW, rows, 0, gl.RGBA, gl.FLOAT, coords);
    const style = new Uint16Array(rows * ROW);
    for (let i = 0; i < this.count; i++) style[i] = sheet.entityStyle[sheet.segmentEntity[i]!]!;
    const segmentStyle = engine.texture();
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.R16UI, ROW, rows, 0, gl.RED_INTEGER, gl.UNSIGNED_SHORT, style);
    const held = {
      engine,
      segments,
      segmentStyle,
      styles: engine.texture(),
      ...this.holdFills(gl),
      picture: engine.texture(),
      target: gl.createFramebuffer(),
      size: { width: 0, height: 0 },
    };
    this.holdStyles(held);
    return held;
  }

  private isHeldAnew(): boolean {
    try {
      this.held = this.hold(StrokeEngine.open());
      return true;
    } catch {
      this.onFault("This machine has taken its graphics back; the sheet stays as it was drawn last.");
      return false;
    }
  }

  /** Shows and hides layers, from the next picture on. */
  showLayers(on: readonly boolean[]) {
    this.on = on;
    this.holdStyles(this.held);
  }

  private holdStyles({ engine: { gl }, styles }: Held) {
    const { sheet, on } = this;
    const rows = Math.max(1, Math.ceil(sheet.styles.length / ROW));
    const texels = new Uint8Array(rows * ROW * 4);
    sheet.styles.forEach(([layer, rgb, weight], i) => {
      // Alpha carries the weight in 1/50 mm, at least 1; 0 hides.
      const alpha = on[layer] ? Math.min(255, Math.max(1, Math.round(weight / 2))) : 0;
      texels.set([(rgb >> 16) & 255, (rgb >> 8) & 255, rgb & 255, alpha], i * 4);
    });
    gl.bindTexture(gl.TEXTURE_2D, styles);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA, ROW, rows, 0, gl.RGBA, gl.UNSIGNED_BYTE, texels);
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
    if (this.held.engine.isLost && !this.isHeldAnew()) return false;
    const { held } = this;
    const { engine } = held;
    const { gl } = engine;
    const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)];
    this.resize(w, h);
    gl.bindFramebuffer(gl.FRAMEBUFFER, held.target);
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
      this.use(engine.fill, matrix);
      gl.bindVertexArray(held.fills);
      gl.drawArrays(gl.TRIANGLES, 0, this.triangles * 3);
    }
    const runs = this.runsInView(view, width, height);
    const bands = runs.reduce((n, [, count]) => n + count, 0) <= MOST_BANDS;
    const begin = () => {
      gl.bindFramebuffer(gl.FRAMEBUFFER, held.target);
      gl.viewport(0, 0, w, h);
      this.use(bands ? engine.band : engine.hairline, matrix);
      if (bands) {
        gl.uniform1f(gl.getUniformLocation(engine.band, "widthUnit"), (view.scale * ratio * millimetre) / 50);
        gl.uniform2f(gl.getUniformLocation(engine.band, "pixels"), w / 2, h / 2);
      }
      gl.bindVertexArray(engine.empty);
    };
    begin();
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
        // Another sheet may have been drawn meanwhile.
        begin();
      }
    gl.finish();
    // What was drawn last stays where the machine has taken its graphics back meanwhile.
    if (engine.isLost) return false;
    engine.show(held.target, w, h, this.shown);
    onBegun();
    return true;
  }

  showMarks() {
    // A drawing's strokes are all its own.
  }

  /** Gives everything back to the graphics card. */
  dispose() {
    this.run++;
    const { engine, segments, segmentStyle, styles, fills, corners, picture, target } = this.held;
    for (const texture of [segments, segmentStyle, styles, picture]) engine.gl.deleteTexture(texture);
    engine.gl.deleteBuffer(corners);
    engine.gl.deleteVertexArray(fills);
    engine.gl.deleteFramebuffer(target);
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
    const { held } = this;
    const { gl } = held.engine;
    gl.useProgram(p);
    gl.uniform4f(gl.getUniformLocation(p, "view"), ...view);
    for (const [unit, name, texture] of [
      [0, "segments", held.segments],
      [1, "segmentStyle", held.segmentStyle],
      [2, "styles", held.styles],
    ] as const) {
      gl.activeTexture(gl.TEXTURE0 + unit);
      gl.bindTexture(gl.TEXTURE_2D, texture);
      gl.uniform1i(gl.getUniformLocation(p, name), unit);
    }
  }

  private holdFills(gl: WebGL2RenderingContext): Pick<Held, "fills" | "corners"> {
    const { sheet } = this;
    const data = new Float32Array(this.triangles * 9);
    for (let i = 0; i < this.triangles; i++)
      for (let k = 0; k < 3; k++) {
        data[i * 9 + k * 3] = sheet.triangles[i * 6 + k * 2]!;
        data[i * 9 + k * 3 + 1] = sheet.triangles[i * 6 + k * 2 + 1]!;
        data[i * 9 + k * 3 + 2] = sheet.entityStyle[sheet.triangleEntity[i]!]!;
      }
    const fills = gl.createVertexArray();
    const corners = gl.createBuffer();
    gl.bindVertexArray(fills);
    gl.bindBuffer(gl.ARRAY_BUFFER, corners);
    gl.bufferData(gl.ARRAY_BUFFER, data, gl.STATIC_DRAW);
    gl.enableVertexAttribArray(0);
    gl.vertexAttribPointer(0, 2, gl.FLOAT, false, 12, 0);
    gl.enableVertexAttribArray(1);
    gl.vertexAttribPointer(1, 1, gl.FLOAT, false, 12, 8);
    return { fills, corners };
  }

  private resize(width: number, height: number) {
    const { held } = this;
    if (held.size.width === width && held.size.height === height) return;
    held.size = { width, height };
    const { gl } = held.engine;
    gl.activeTexture(gl.TEXTURE0);
    gl.bindTexture(gl.TEXTURE_2D, held.picture);
    gl.texImage2D(gl.TEXTURE_2D, 0, gl.RGBA8, width, height, 0, gl.RGBA, gl.UNSIGNED_BYTE, null);
    gl.bindFramebuffer(gl.FRAMEBUFFER, held.target);
    gl.framebufferTexture2D(gl.FRAMEBUFFER, gl.COLOR_ATTACHMENT0, gl.TEXTURE_2D, held.picture, 0);
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

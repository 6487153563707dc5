// The front end as built, its API answered from what is given, for headless Chromium with a software GPU.
import { createServer } from "node:http";
import { readFileSync } from "node:fs";
import { extname, join } from "node:path";
import { chromium } from "@playwright/test";

const types = {
  ".js": "text/javascript",
  ".mjs": "text/javascript",
  ".css": "text/css",
  ".html": "text/html",
  ".svg": "image/svg+xml",
  ".wasm": "application/wasm",
  ".woff2": "font/woff2",
};

/**
 * Serves the pages of `dist`.
 * @param {string} dist where the front end was built
 * @param {Record<string, unknown>} answers of the API, by path
 * @param {(path: string) => { body: Buffer | string, type: string } | undefined} more whatever else is to be had
 * @returns {Promise<{ base: string, close: () => void }>}
 */
export async function serve(dist, answers, more) {
  const server = createServer((request, response) => {
    const path = new URL(request.url, "http://x").pathname;
    const send = (body, type) =>
      response.writeHead(200, { "Content-Type": type, "Content-Length": Buffer.byteLength(body) }).end(body);
    if (path in answers) return send(JSON.stringify(answers[path]), "application/json");
    const found = more(path);
    if (found) return send(found.body, found.type);
    if (path.startsWith("/api") || path.startsWith("/live")) return response.writeHead(404).end();
    const file = extname(path) ? path : "/index.html";
    try {
      send(readFileSync(join(dist, file)), types[extname(file)] ?? "application/octet-stream");
    } catch {
      response.writeHead(404).end();
    }
  });
  await new Promise((resolve) => server.listen(0, "127.0.0.1", resolve));
  return { base: `http://127.0.0.1:${server.address().port}`, close: () => server.close() };
}

const BROWSER = {
  executablePath: "/usr/bin/chromium",
  args: ["--use-angle=swiftshader", "--enable-unsafe-swiftshader", "--disable-accelerated-2d-canvas"],
};

export const launch = () => chromium.launch(BROWSER);

/** A browser that keeps in a folder what it has seen, from one visit to the next. */
export const settle = (profile) =>
  chromium.launchPersistentContext(profile, { ...BROWSER, viewport: { width: 1280, height: 800 } });

export const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { defineConfig, type Plugin } from "vite";
import react from "@vitejs/plugin-react";
import tailwind from "@tailwindcss/vite";
import { chunks } from "./chunks";

/** Writes every file that gets smaller by it as .br and .gz too, so that the server compresses nothing while somebody waits. */
function compressed(): Plugin {
  return {
    name: "compressed",
    apply: "build",
    writeBundle({ dir }) {
      const assets = join(dir!, "assets");
      for (const file of readdirSync(assets).filter((f) => /\.(js|css|svg|wasm|json)$/.test(f))) {
        const path = join(assets, file);
        if (statSync(path).size < 1000) continue;
        const bytes = readFileSync(path);
        // The last step takes half a minute over an engine of megabytes, for three hundredths of it.
        const params = { [constants.BROTLI_PARAM_QUALITY]: bytes.length > 1_000_000 ? 9 : 11 };
        writeFileSync(`${path}.br`, brotliCompressSync(bytes, { params }));
        writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
      }
    },
  };
}

/** The faces that every place is set in from its first words on, the sign-in page too, as far as Latin letters go. */
const FACES = /^assets\/barlow-(latin-[456]00|semi-condensed-latin-600)-normal-.*\.woff2$/;

/** The script of the house, which the first one asks for. */
const HOUSE = /^assets\/house-.*\.js$/;

/**
 * Names in the page itself what every place needs: the house, which a browser would learn of from the first script, and the faces, of which
 * it learns only when it lays out the first words, and would set those twice.
 */
function namedAhead(): Plugin {
  return {
    name: "named-ahead",
    apply: "build",
    transformIndexHtml: {
      order: "post",
      handler: (_, { bundle }) => {
        const files = Object.keys(bundle ?? {});
        const named = (of: RegExp, attrs: Record<string, string>) =>
          files
            .filter((file) => of.test(file))
            .map((file) => ({
              tag: "link",
              attrs: { ...attrs, href: `/${file}`, crossorigin: true },
              injectTo: "head" as const,
            }));
        return [
          ...named(HOUSE, { rel: "modulepreload" }),
          ...named(FACES, { rel: "preload", as: "font", type: "font/woff2" }),
        ];
      },
    },
  };
}

/** Whatever bundles it, the package gives what it has for developers, with their warnings; this is the same without. */
const router = join(
  dirname(createRequire(import.meta.url).resolve("react-router/package.json")),
  "dist/production/index.mjs",
);

const inSource = (file: string) => join(import.meta.dirname, "src", file);

export default defineConfig({
  plugins: [react(), tailwind(), compressed(), namedAhead()],
  resolve: { alias: [{ find: /^react-router$/, replacement: router }] },
  // Colours by light-dark() are left to the browser: rewritten, they would not follow the paper that lies on the table.
  build: {
    target: "es2022",
    cssTarget: ["chrome123", "firefox120", "safari17.5"],
    assetsInlineLimit: 0,
    // Every browser that the pages are made for knows it by itself.
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: { codeSplitting: chunks(inSource("main.ts"), inSource("begin.tsx"), inSource("viewer/earlyPicture.ts")) },
    },
  },
});

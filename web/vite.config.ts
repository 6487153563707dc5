import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
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

/** Names the faces in the page itself: a browser learns of them only when it lays out the first words, and would set those twice. */
function facesAhead(): Plugin {
  return {
    name: "faces-ahead",
    apply: "build",
    transformIndexHtml: {
      order: "post",
      handler: (_, { bundle }) =>
        Object.keys(bundle ?? {})
          .filter((file) => FACES.test(file))
          .map((file) => ({
            tag: "link",
            attrs: { rel: "preload", href: `/${file}`, as: "font", type: "font/woff2", crossorigin: true },
            injectTo: "head",
          })),
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwind(), compressed(), facesAhead()],
  // Colours by light-dark() are left to the browser: rewritten, they would not follow the paper that lies on the table.
  build: {
    target: "es2022",
    cssTarget: ["chrome123", "firefox120", "safari17.5"],
    assetsInlineLimit: 0,
    rolldownOptions: { output: { codeSplitting: chunks(join(import.meta.dirname, "src/main.tsx")) } },
  },
});

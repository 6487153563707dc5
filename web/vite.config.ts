import { defineConfig } from "vite";
import react from "@vitejs/plugin-react";
import tailwind from "@tailwindcss/vite";

export default defineConfig({
  plugins: [react(), tailwind()],
  build: { target: "es2022", chunkSizeWarningLimit: 900, assetsInlineLimit: 0 },
});

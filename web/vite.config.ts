import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/** The emoji font's woff2 files hold SVG glyphs alone, which few browsers draw; its woff files hold COLR and SVG, for all. */
const drawableEmoji = {
  name: "drawable-emoji",
  enforce: "pre" as const,
  transform: (code: string, id: string) =>
    id.includes("noto-color-emoji") ? code.replace(/url\([^)]*\.woff2\) format\('woff2'\), /g, "") : undefined,
};

export default defineConfig({
  plugins: [drawableEmoji, react()],
  resolve: { alias: { "@": "/src" } },
  build: { target: "es2022", sourcemap: false, assetsInlineLimit: 0 },
});

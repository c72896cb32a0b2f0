import react from "@vitejs/plugin-react";
import { readFileSync } from "node:fs";
import { defineConfig, type Plugin } from "vite";

/** The emoji font's woff2 files hold SVG glyphs alone, which few browsers draw; its woff files hold COLR and SVG, for all. */
const drawableEmoji = {
  name: "drawable-emoji",
  enforce: "pre" as const,
  transform: (code: string, id: string) =>
    id.includes("noto-color-emoji") ? code.replace(/url\([^)]*\.woff2\) format\('woff2'\), /g, "") : undefined,
};

/** The emoji's names and kinds, for the emoji panel: they ship beside the scripts, no network is asked. */
const emojiData: Plugin = {
  name: "emoji-data",
  generateBundle() {
    for (const name of ["data", "messages"]) {
      const source = readFileSync(`node_modules/emojibase-data/en/${name}.json`);
      this.emitFile({ type: "asset", fileName: `emoji/en/${name}.json`, source });
    }
  },
};

export default defineConfig({
  plugins: [drawableEmoji, emojiData, react()],
  resolve: { alias: { "@": "/src" } },
  build: {
    target: "es2022",
    sourcemap: false,
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: {
        // What several pages share comes in two files, not in some fifty of a few lines each.
        codeSplitting: {
          groups: [
            { name: "packages", test: /node_modules/, minShareCount: 2 },
            { name: "shared", test: /\/src\//, minShareCount: 3 },
          ],
        },
      },
    },
  },
});

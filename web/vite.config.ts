import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react()],
  resolve: { alias: { "@": "/src" } },
  build: { target: "es2022", sourcemap: false, assetsInlineLimit: 0 },
});

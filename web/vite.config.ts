import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

const SERVER = process.env["HOB_SERVER"] ?? "http://127.0.0.1:8765";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { chunkSizeWarningLimit: 700 },
  server: {
    // the server answers only to its own name and takes writes only from its own pages, so both are told as its own
    proxy: {
      "/api": {
        target: SERVER,
        changeOrigin: true,
        ws: true,
        headers: { origin: SERVER },
        configure: (proxy) => proxy.on("proxyReqWs", (request) => request.setHeader("origin", SERVER)),
      },
    },
  },
});

import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { basename } from "node:path";
import { defineConfig, type Plugin } from "vite";
import { compression } from "vite-plugin-compression2";
import { VitePWA } from "vite-plugin-pwa";

// A schema that nobody asks anything of is left out: to make one does nothing else.
const treeshake = { manualPureFunctions: ["z", "readAsId"] };

/** What a subject of the worker needs is asked for with it, not when it has come and names it: on a slow line each turn costs. */
const fetchedAtOnce = (): Plugin => ({
  name: "fetched-at-once",
  renderChunk: (code, chunk, _, { chunks }) => {
    if (!chunk.isEntry) return null;
    return chunk.dynamicImports.reduce((before, subject) => {
      const needed = new Set(chunks[subject]?.imports);
      for (const file of needed) for (const other of chunks[file]?.imports ?? []) needed.add(other);
      const early = [...needed].map((f) => `import("./${basename(f)}").catch(() => {}), `).join("");
      return before
        .split(/(?=import\()/u)
        .map((piece) =>
          piece.includes(basename(subject))
            ? piece.replace(/import\([^)]*\)/u, `(${early}$&)`)
            : piece,
        )
        .join("");
    }, code);
  },
});

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    // The application itself stays on the device, so that it opens where there is no signal. What it shows comes from the device's store.
    VitePWA({
      // A new version waits until a person takes it: nothing that is being typed is lost to it.
      registerType: "prompt",
      injectRegister: false,
      manifest: {
        name: "Upper Shed",
        short_name: "Upper Shed",
        description:
          "A technician's bench for the water systems of recreational vehicles and boats",
        start_url: "/",
        display: "standalone",
        theme_color: "#1c4a3e",
        background_color: "#fbf9f4",
        icons: [{ src: "/mark.svg", sizes: "any", type: "image/svg+xml" }],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        maximumFileSizeToCacheInBytes: 6_000_000,
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//u],
      },
    }),
    // Beside each file stands the same compressed, for the server to hand out.
    compression({
      algorithms: ["brotliCompress", "gzip"],
      exclude: [/\.woff2$/u],
      threshold: 1024,
    }),
  ],
  worker: { format: "es", plugins: () => [fetchedAtOnce()], rolldownOptions: { treeshake } },
  build: {
    target: "es2022",
    manifest: true,
    sourcemap: false,
    chunkSizeWarningLimit: 2500,
    rolldownOptions: { treeshake },
  },
  server: {
    host: "127.0.0.1",
    // The server is told under which name the page stands, and takes nothing from a page of another.
    proxy: {
      "/api": { target: process.env["API_URL"] ?? "http://127.0.0.1:4700", changeOrigin: false },
    },
  },
});

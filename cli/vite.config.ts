import { defineConfig } from "vite";

/** The command line as one file: nothing is looked for or translated when it is asked. The solver brings its own machine code along. */
export default defineConfig({
  build: { ssr: "src/shed.ts", outDir: "dist", target: "node20" },
  ssr: { noExternal: true, external: ["highs"] },
});

import { defineConfig } from "vite";

// A program for Node in two files, with the library in them.
export default defineConfig({
  ssr: { noExternal: true },
  build: {
    ssr: true,
    target: "node20",
    rolldownOptions: { input: { gate: "src/gate.ts", demo: "src/demo.ts" } },
  },
});

import { defineConfig } from 'vite'

// The script inside the sandboxed frame: one file, no imports, for the frame may
// fetch nothing but the kit.
export default defineConfig({
  publicDir: false,
  build: {
    outDir: 'dist-frame',
    target: 'es2022',
    lib: { entry: 'src/frame/agent.ts', formats: ['es'], fileName: () => 'frame.js' },
  },
})

import { defineConfig } from 'vite'

// Measures the contrast of what a page shows, for checking a kit by itself.
export default defineConfig({
  publicDir: false,
  build: {
    outDir: 'dist-inks',
    target: 'es2022',
    lib: { entry: 'src/frame/inks.ts', formats: ['es'], fileName: () => 'inks.js' },
  },
})

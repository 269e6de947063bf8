import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  base: '/assets/',
  plugins: [react(), tailwindcss()],
  build: {
    outDir: '../src/Jovitar.Server/wwwroot/assets',
    emptyOutDir: true,
    manifest: true,
    modulePreload: { polyfill: false },
    assetsInlineLimit: 0,
    assetsDir: '',
    rolldownOptions: { input: ['src/workroom/main.tsx', 'src/site/main.ts'] },
  },
})

import { defineConfig } from '@playwright/test'

const root = process.env.JOVITAR_ROOT ?? '../..'

export default defineConfig({
  testDir: '.',
  outputDir: `${root}/.cache/e2e`,
  workers: 1,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  // The first visitor makes the site; what follows needs it.
  projects: [
    { name: 'main job', testMatch: 'main-job.spec.ts' },
    { name: 'intake', testMatch: 'intake.spec.ts', dependencies: ['main job'] },
    { name: 'history', testMatch: 'history.spec.ts', dependencies: ['main job'] },
    { name: 'visitors', testMatch: 'visitors.spec.ts', dependencies: ['main job'] },
    { name: 'narrowing', testMatch: 'narrowing.spec.ts', dependencies: ['main job'] },
    { name: 'describing', testMatch: 'describing.spec.ts', dependencies: ['main job'] },
    { name: 'geometry', testMatch: 'geometry.spec.ts' },
    { name: 'corrections', testMatch: 'corrections.spec.ts', dependencies: ['main job'] },
    { name: 'rooms', testMatch: 'rooms.spec.ts', dependencies: ['main job'] },
    { name: 'tags', testMatch: 'tags.spec.ts', dependencies: ['main job'] },
    { name: 'standing', testMatch: 'standing.spec.ts', dependencies: ['main job'] },
    { name: 'filling', testMatch: 'filling.spec.ts', dependencies: ['main job'] },
    { name: 'stations', testMatch: 'stations.spec.ts', dependencies: ['main job'] },
    { name: 'pages', testMatch: 'pages.spec.ts', dependencies: ['main job'] },
    { name: 'layouts', testMatch: 'layouts.spec.ts', dependencies: ['main job'] },
    { name: 'lots', testMatch: 'lots.spec.ts', dependencies: ['main job'] },
    { name: 'bars', testMatch: 'bars.spec.ts', dependencies: ['main job'] },
    { name: 'presses', testMatch: 'presses.spec.ts', dependencies: ['main job'] },
    { name: 'touches', testMatch: 'touches.spec.ts', dependencies: ['main job'] },
    { name: 'looks', testMatch: 'looks.spec.ts', dependencies: ['main job'] },
    { name: 'embeds', testMatch: 'embeds.spec.ts', dependencies: ['main job'] },
    { name: 'devices', testMatch: 'devices.spec.ts', dependencies: ['main job'] },
    { name: 'page files', testMatch: 'pagefiles.spec.ts', dependencies: ['main job'] },
    { name: 'grounds', testMatch: 'grounds.spec.ts', dependencies: ['main job'] },
    { name: 'favourites', testMatch: 'favourites.spec.ts', dependencies: ['main job'] },
    { name: 'comments', testMatch: 'comments.spec.ts', dependencies: ['main job'] },
    { name: 'clearance', testMatch: 'clearance.spec.ts', dependencies: ['main job'] },
    { name: 'audience', testMatch: 'audience.spec.ts', dependencies: ['main job'] },
    { name: 'members', testMatch: 'members.spec.ts', dependencies: ['main job'] },
    { name: 'people', testMatch: 'people.spec.ts', dependencies: ['main job'] },
    { name: 'passkey', testMatch: 'passkey.spec.ts', dependencies: ['main job'] },
    { name: 'starters', testMatch: 'starters.spec.ts', dependencies: ['main job'] },
    { name: 'keys', testMatch: 'keys.spec.ts', dependencies: ['page files'] },
    // Last: while it is on, nobody else signs in with a password alone.
    { name: 'second step', testMatch: 'secondstep.spec.ts', dependencies: ['keys'] },
  ],
  use: {
    baseURL: process.env.JOVITAR_URL,
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    },
  },
})

import { defineConfig, type Project } from '@playwright/test'

const root = process.env.JOVITAR_ROOT ?? '../..'
/** Which half is run, each on a site of its own; all on one where nothing is said. */
const half = process.env.JOVITAR_E2E_HALF

/** The first visitor makes the site; what follows needs it, in this order. */
const begins: Project = { name: 'main job', testMatch: 'main-job.spec.ts' }
const after = (...names: string[]): Project[] =>
  names.map((name) => ({ name, testMatch: `${name.replaceAll(' ', '')}.spec.ts`, dependencies: ['main job'] }))

const rest: Project[] = [
  ...after('intake', 'history', 'visitors', 'narrowing', 'describing'),
  { name: 'geometry', testMatch: 'geometry.spec.ts' },
  ...after('corrections', 'rooms', 'tags', 'standing', 'filling', 'stations'),
  ...after('pages', 'layouts', 'lots', 'bars', 'presses', 'touches', 'looks', 'watermark', 'prices', 'embeds', 'devices'),
  { name: 'buying', testMatch: 'buying.spec.ts', dependencies: ['prices'] },
  { name: 'selling', testMatch: 'selling.spec.ts', dependencies: ['buying'] },
  ...after('page files', 'grounds', 'favourites', 'comments'),
  ...after('clearance', 'audience', 'choosing', 'members', 'contributing', 'people', 'passkey', 'starters'),
  { name: 'keys', testMatch: 'keys.spec.ts', dependencies: ['page files'] },
  // Last: while it is on, nobody else signs in with a password alone.
  { name: 'second step', testMatch: 'secondstep.spec.ts', dependencies: ['keys'] },
]

/** These and the others take about the same time. */
const first = new Set(
  ['intake', 'history', 'visitors', 'narrowing', 'describing', 'geometry', 'corrections', 'rooms', 'tags'].concat(
    ['standing', 'filling', 'stations', 'clearance', 'audience', 'choosing', 'members', 'people', 'passkey'],
  ),
)

export default defineConfig({
  testDir: '.',
  outputDir: `${root}/.cache/e2e${half ? `-${half}` : ''}`,
  workers: 1,
  // How long something may take is no question of these tests: a machine that is shared may stand still for a while.
  timeout: 240_000,
  expect: { timeout: 30_000 },
  reporter: [['list']],
  projects: [begins, ...rest.filter((project) => !half || first.has(project.name ?? '') === (half === '1'))],
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

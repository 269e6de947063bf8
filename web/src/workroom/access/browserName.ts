import { w } from '../../words'

const browsers = [
  [/Edg\//, 'Edge'],
  [/Firefox\//, 'Firefox'],
  [/Chrom(e|ium)\//, 'Chrome or Chromium'],
  [/Safari\//, 'Safari'],
] as const
const systems = [
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Windows/, 'Windows'],
  [/Mac OS X/, 'macOS'],
  [/Linux|X11/, 'Linux'],
] as const

/** What a browser calls itself, in words: its own text is long and names others besides. */
export function browserName(agent: string) {
  const named = (list: readonly (readonly [RegExp, string])[]) => list.find(([sign]) => sign.test(agent))?.[1]
  const browser = named(browsers) ?? agent.split(' ')[0]
  const system = named(systems)
  return browser ? (system ? w.account.on(browser, system) : browser) : undefined
}

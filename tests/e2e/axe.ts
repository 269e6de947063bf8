import AxeBuilder from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/** No finding of axe that keeps somebody out (WCAG 2.2 A and AA). */
export async function noSeriousFinding(page: Page) {
  // The pages within a workroom's frame are looked at as visitors have them: a frame that is replaced while it is looked into never answers.
  // Only what is wrong is wanted, and no page has frames from elsewhere: then axe needs neither a page of its own nor lists of what is right.
  const found = await new AxeBuilder({ page })
    .setLegacyMode(true)
    .options({ iframes: false, resultTypes: ['violations'], runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] })
    .analyze()
  const serious = found.violations.filter((v) => v.impact === 'serious' || v.impact === 'critical')
  expect(serious.map((v) => `${v.id}: ${v.nodes.map((n) => `${n.target} ${n.failureSummary}`).join(' | ')}`)).toEqual([])
}

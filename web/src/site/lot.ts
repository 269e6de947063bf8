let onThisPage: string | undefined

/**
 * What is drawn by lot on this site is drawn by one number as long as the visit lasts: on every page, and back on it.
 * @param lots They are numbered from 1 to this.
 */
export function lotOfVisit(lots: number): string {
  const inAddress = new URLSearchParams(location.search).get('lot')
  if (inAddress) return inAddress
  onThisPage ??= String(1 + Math.floor(Math.random() * lots))
  try {
    const known = sessionStorage.getItem('lot')
    if (known) return known
    sessionStorage.setItem('lot', onThisPage)
  } catch {
    // A browser that keeps nothing: it is drawn anew on every page.
  }
  return onThisPage
}

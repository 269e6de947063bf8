/** The page stands in a frame on another website. */
export const isEmbedded = () => document.body.classList.contains('embedded')

/** Tells the website that the page stands on how high it is, whenever that changes. */
export function tellHeight() {
  const tell = () =>
    // Whichever website that is: nothing is told but a height.
    parent.postMessage({ embedHeight: Math.ceil(document.body.getBoundingClientRect().height) }, '*')
  new ResizeObserver(tell).observe(document.body)
}

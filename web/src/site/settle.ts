/** How long photos take to their new places, ms. */
const pace = 260
const easing = 'cubic-bezier(0.2, 0.7, 0.2, 1)'

/** Where photos stand that are seen, before they are placed anew. */
export class Settling {
  private readonly stood = new Map<HTMLAnchorElement, DOMRect>()
  private readonly origin: DOMRect

  constructor(
    private readonly element: HTMLElement,
    links: Iterable<HTMLAnchorElement>,
  ) {
    this.origin = element.getBoundingClientRect()
    for (const link of links) {
      const box = link.getBoundingClientRect()
      if (isSeen(box)) this.stood.set(link, box)
    }
  }

  /** Lets a photo that goes fade where it stood; it is nothing any more to the keyboard, to readers of the screen, and to a press. */
  leave(link: HTMLAnchorElement) {
    const box = this.stood.get(link)
    if (!box) {
      link.remove()
      return
    }
    link.blur()
    for (const name of ['href', 'id', 'tabindex', 'data-id', 'data-place']) link.removeAttribute(name)
    link.setAttribute('aria-hidden', 'true')
    link.classList.add('leaving')
    Object.assign(link.style, {
      left: `${box.left - this.origin.left}px`,
      top: `${box.top - this.origin.top}px`,
      width: `${box.width}px`,
      height: `${box.height}px`,
    })
    this.element.append(link)
    link
      .animate([{ opacity: 1 }, { opacity: 0 }], { duration: pace, easing, fill: 'forwards' })
      .finished.then(
        () => link.remove(),
        () => link.remove(),
      )
  }

  /** Photos that stay move from where they stood to where they stand; new ones come up out of the ground. */
  settle(links: Iterable<HTMLAnchorElement>) {
    const now: [HTMLAnchorElement, DOMRect][] = []
    for (const link of links) if (link.isConnected) now.push([link, link.getBoundingClientRect()])
    for (const [link, box] of now) {
      const was = this.stood.get(link)
      if (was && box.width > 0 && box.height > 0) {
        const [x, y] = [was.left - box.left, was.top - box.top]
        if (x === 0 && y === 0 && was.width === box.width && was.height === box.height) continue
        const from = `translate(${x}px, ${y}px) scale(${was.width / box.width}, ${was.height / box.height})`
        link.animate(
          [
            { transformOrigin: '0 0', transform: from },
            { transformOrigin: '0 0', transform: 'none' },
          ],
          {
            duration: pace,
            easing,
          },
        )
      } else if (isSeen(box)) link.animate([{ opacity: 0 }, { opacity: 1 }], { duration: pace, easing })
    }
  }
}

const isSeen = (box: DOMRect) =>
  box.bottom > 0 && box.top < innerHeight && box.right > 0 && box.left < innerWidth

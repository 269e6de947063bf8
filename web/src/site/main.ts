import './fonts.css'
import './filter.css'
import './site.css'
import './frames.css'
import './favourites.css'
import './choosing.css'
import './touch.css'
import './look.css'
import './embedded.css'
import './talk.css'
import './entering.css'
import './contributions.css'
import { AlongWalk } from './along'
import { isEmbedded, tellHeight } from './embedded'
import { enhanceFavourites } from './favourites'
import { enhanceFilms } from './film'
import { enhanceFilter } from './filter'
import { PlacedWalk } from './placed'
import { enhanceRating } from './rating'
import { enhanceSingle } from './single'
import { enhanceSlides } from './slides'
import { enhanceStrip } from './strip'
import { tellThings } from './things'
import { enhanceTouch } from './touch'
import { enhanceViewer } from './viewer'
import { Walk } from './walk'

/** The photos of one element, as they stand there. */
function walkOf(element: HTMLElement): Walk {
  const run = element.closest<HTMLElement>('[data-run]')
  if (!run) return element.dataset.bands ? new PlacedWalk(element) : new Walk(element)
  const walk = new AlongWalk(element, run)
  if (run.dataset.run === 'strip') enhanceStrip(walk)
  else enhanceSlides(walk)
  return walk
}

const walks = [...document.querySelectorAll<HTMLElement>('[data-walk]')].map(walkOf)
for (const walk of walks) {
  enhanceTouch(walk.element)
  if (walk.element.dataset.mark) enhanceFilter(walk)
  else if (walk.isToBeDrawn) walk.drawOne().catch(() => walk.standAsItCame())
}
/** The album that asks whoever looks for their favourites: it keeps the marks then, and not the browser. */
const asking = document.querySelector<HTMLElement>('[data-choosing]')?.dataset.choosing
const marking =
  asking && !isEmbedded()
    ? import('./choosing').then((m) => m.enhanceChoosing(asking)).catch(() => {})
    : Promise.resolve()
if (isEmbedded()) tellHeight()
else if (walks.length > 0) enhanceViewer(walks, marking)
void marking.then(enhanceFavourites)
const contribution = document.querySelector<HTMLElement>('[data-contribution]')
if (contribution) void import('./contributing').then((m) => m.enhanceContributing(contribution))
enhanceSingle()
tellThings()
enhanceRating()
enhanceFilms()

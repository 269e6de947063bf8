import './site.css'
import { enhanceFilter } from './filter'
import { enhanceSingle } from './single'
import { enhanceViewer } from './viewer'
import { Walk } from './walk'

const walks = [...document.querySelectorAll<HTMLElement>('[data-walk]')].map((element) => new Walk(element))
for (const walk of walks) if (walk.element.dataset.bands) enhanceFilter(walk)
if (walks.length > 0) enhanceViewer(walks)
enhanceSingle()

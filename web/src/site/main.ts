import './site.css'
import { enhanceFilter } from './filter'
import { enhanceSingle } from './single'
import { enhanceViewer } from './viewer'

const frames = document.querySelector<HTMLElement>('#frames')
if (frames) {
  enhanceFilter(frames)
  enhanceViewer(frames)
}
enhanceSingle()

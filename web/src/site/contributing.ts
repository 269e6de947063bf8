import { w } from '../words/site'
import './contributing.css'
import { button, make } from './dom'
import { SendForm } from './sendForm'
import { SentPhotos } from './sentPhotos'
import { type Sent, SentServer } from './sentServer'

/** What cannot be photos is not offered where files are chosen; what is one the server judges. */
const kinds = 'image/*,.heic,.heif,.avif,.tif,.tiff,.dng,.nef,.cr2,.arw'

/** Photos that are sent in: put together here, sent, and seen to afterwards. */
export async function enhanceContributing(root: HTMLElement): Promise<void> {
  const server = new SentServer(root.dataset.contribution ?? '')
  const place = make('div', { className: 'sending' })
  root.append(place)
  const state = await server.read()
  if (!state) place.append(make('p', { className: 'fault', role: 'alert' }, w.markFailed))
  else if (state.sent) showSent(place, server, state)
  else if (state.isOpen) showDraft(place, server, state)
  else place.append(make('p', {}, w.takenNoMore))
}

function showDraft(place: HTMLElement, server: SentServer, state: Sent) {
  const count = make('p', { className: 'count', role: 'status' })
  const form = new SendForm(state, async (body) => {
    const taken = await server.do('/sent', 'POST', body)
    const next = taken.done ? await server.read() : null
    if (next?.sent) {
      stop.abort()
      place.replaceChildren()
      showSent(place, server, next, true)
    }
    return taken
  })
  const photos = new SentPhotos(server, false, () => {
    const { come, open } = photos.counts
    form.show(come, open)
    count.textContent = come + open > 0 ? w.goesTo(come + open, state.most) : ''
  })
  const take = (files: Iterable<File>) => {
    const { come, open } = photos.counts
    photos.take(files, state.most - come - open)
  }
  const files = make('input', { type: 'file', multiple: true, accept: kinds })
  files.onchange = () => {
    take(files.files ?? [])
    files.value = ''
  }
  const choose = make('label', { className: 'choose' }, make('span', {}, w.choosePhotos), files)
  const hint = make('span', { className: 'hint' }, w.orDrop)
  place.append(
    make('div', { className: 'choosing-files' }, choose, hint, count),
    photos.element,
    make('aside', { className: 'entering' }, form.element),
  )
  photos.show(state.photos, false)
  const stop = listen(take, () => photos.counts.open > 0)
}

/** What is dropped anywhere is taken; who goes while something is on its way is asked. */
function listen(take: (files: Iterable<File>) => void, isBusy: () => boolean): AbortController {
  const stop = new AbortController()
  const { signal } = stop
  const over = (on: boolean) => document.body.classList.toggle('dropping', on)
  document.addEventListener(
    'dragover',
    (e) => {
      if (!e.dataTransfer?.types.includes('Files')) return
      e.preventDefault()
      over(true)
    },
    { signal },
  )
  document.addEventListener('dragleave', (e) => !e.relatedTarget && over(false), { signal })
  document.addEventListener(
    'drop',
    (e) => {
      over(false)
      if (!e.dataTransfer?.files.length) return
      e.preventDefault()
      take(e.dataTransfer.files)
    },
    { signal },
  )
  window.addEventListener('beforeunload', (e) => isBusy() && e.preventDefault(), { signal })
  return stop
}

function showSent(place: HTMLElement, server: SentServer, state: Sent, isNew = false) {
  document.querySelector('.instructions')?.remove()
  const standing = make('p', { className: 'standing-line', role: 'status' }, state.standing)
  const head = make('div', { className: 'sent-head' }, standing)
  if (isNew) {
    const thanks = make('h2', { tabIndex: -1 }, w.sentIn)
    head.prepend(thanks)
    place.append(head)
    thanks.focus()
  } else place.append(head)
  if (!state.isKnown) {
    const copy = button(w.copyAddress, () => {
      void navigator.clipboard.writeText(location.href).then(() => {
        copy.textContent = w.copied
      })
    })
    head.append(make('p', { className: 'keep' }, `${w.keepAddress} `, copy))
  }
  const album = state.album.title || state.albums?.find((a) => a.id === state.album.album)?.name
  if (album) head.append(make('p', {}, w.forAlbum(album)))
  if (state.words) head.append(make('blockquote', {}, state.words))
  const photos = new SentPhotos(server, true, () => {
    void server.read().then((next) => {
      if (next) standing.textContent = next.standing
    })
  })
  place.append(photos.element)
  photos.show(state.photos, true)
}

import { Link } from '@tanstack/react-router'
import { api } from '../../api/client'
import { w } from '../../words'
import { useUndo } from './data'
import { useLight } from './light'
import { useNews } from './news'

/** The foot of the contents: the latest news with its undo, and the few settings of one's own. */
export function Foot({
  folded,
  onFold,
  onKeys,
}: {
  folded: boolean
  onFold: () => void
  onKeys: () => void
}) {
  const news = useNews()
  const [light, toggle] = useLight()
  const undo = useUndo()

  async function signOut() {
    await api.DELETE('/api/session')
    window.location.assign('/workroom')
  }

  return (
    <div className="contents-foot mt-auto px-[22px] pt-4 pb-5 text-small max-lg:flex max-lg:items-center max-lg:gap-6 max-lg:py-2">
      <div role="status" aria-live="polite" className="min-h-[3.4rem] max-lg:min-h-0">
        {news && (
          <p className="border-t border-strong-line pt-3 max-lg:border-0 max-lg:pt-0">
            <span className={news.bad ? 'font-semibold' : ''}>{news.text}</span>{' '}
            {news.act && (
              <button
                type="button"
                className="underline underline-offset-4"
                disabled={undo.isPending}
                onClick={() => news.act && undo.mutate(news.act)}
              >
                {w.contents.undo}
              </button>
            )}
          </p>
        )}
      </div>
      <div className="mt-3 flex flex-wrap gap-x-3.5 border-t border-line pt-3 text-quiet *:min-h-6 *:leading-6 max-lg:mt-0 max-lg:ml-auto max-lg:border-0 max-lg:pt-0">
        <a className="hover:text-ink" href="/" target="_blank" rel="noreferrer">
          {w.contents.site}
        </a>
        <button type="button" className="hover:text-ink" onClick={toggle}>
          {light === 'dim' ? w.contents.light : w.contents.dim}
        </button>
        <button type="button" className="hover:text-ink max-lg:hidden" onClick={onFold}>
          {folded ? w.contents.unfold : w.contents.fold}
        </button>
        <button type="button" className="hover:text-ink" onClick={onKeys}>
          {w.contents.keys}
        </button>
        <Link to="/workroom/account" className="hover:text-ink">
          {w.contents.account}
        </Link>
        <button type="button" className="hover:text-ink" onClick={signOut}>
          {w.contents.signOut}
        </button>
      </div>
    </div>
  )
}

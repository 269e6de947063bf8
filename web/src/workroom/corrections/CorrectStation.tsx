import { useNavigate, useRouter } from '@tanstack/react-router'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button, Choice } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { hand, useHand } from '../shell/hand'
import { useKeys } from '../shell/keys'
import { tellDone } from '../shell/news'
import { Empty, NothingInHand } from '../shell/Station'
import { PrintOutlines, PrintsPart, usePrints } from './Prints'
import { Recipe } from './Recipe'
import { type Look, Stage } from './Stage'
import { isLying, keptRatio, type ShapeName, shapedCrop, shapeOf } from './shapes'
import { none, useCorrection } from './useCorrection'
import { type Axis, useTones } from './useTones'

/** Corrects the photos in hand one after another, or all of them at once with one shown large; or one photo that is named. */
export function CorrectStation({ photo }: { photo?: string | undefined }) {
  const held = useHand()
  const ids = photo ? [photo] : held.ids
  const [at, setAt] = useState(0)
  const [onAll, setOnAll] = useState(false)
  const { history } = useRouter()
  const shown = Math.min(at, Math.max(0, ids.length - 1))
  const many = !photo && held.count > 1
  useKeys({ Escape: () => history.back() }, ids.length === 0)
  if (ids.length === 0) return <NothingInHand lead={w.correct.nothingLead} />
  return (
    <Correcting
      id={ids[shown] ?? ''}
      at={shown}
      of={photo ? 1 : held.count}
      onGo={many ? (to) => setAt(Math.max(0, Math.min(ids.length - 1, to))) : undefined}
      onAll={many && onAll}
      onOnAll={many ? setOnAll : undefined}
    />
  )
}

function Correcting({
  id,
  at,
  of,
  onGo,
  onAll,
  onOnAll,
}: {
  id: string
  at: number
  of: number
  onGo: ((to: number) => void) | undefined
  onAll: boolean
  onOnAll: ((all: boolean) => void) | undefined
}) {
  const { history } = useRouter()
  const go = useNavigate()
  const { plate, error, correction, say, written, isBusy } = useCorrection(id, onAll)
  const [look, setLook] = useState<Look>('shape')
  const [chosen, setChosen] = useState<{ photo: string; shape: ShapeName } | null>(null)
  const [drawing, setDrawing] = useState(false)
  const [before, setBefore] = useState(false)
  const [moving, setMoving] = useState<Axis>('brightness')
  const tones = useTones(correction?.brightness ?? 0, correction?.contrast ?? 0, moving)
  const prints = usePrints(id, (made) => {
    hand.set(made)
    void go({ to: '/workroom/correct', search: {} })
    onGo?.(0)
  })
  const copy = useAct(
    async () => {
      await written()
      return body(
        api.POST('/api/corrections', { body: { ...(await hand.reach()), like: id } }),
        w.errors.away,
      )
    },
    (done) => tellDone(w.correct.copied(done.photos), done),
  )
  const shape =
    chosen?.photo === id ? chosen.shape : correction && plate ? shapeOf(correction, plate) : 'asShot'
  const opened = (next: Look) => {
    setDrawing(false)
    setLook(next)
  }
  const draw = () => {
    opened('shape')
    setDrawing(!drawing)
  }
  useKeys({
    ArrowRight: () => onGo?.(at + 1),
    ArrowLeft: () => onGo?.(at - 1),
    t: () => say({ turn: 1 }),
    h: draw,
    i: () => setBefore(!before),
    Escape: () => (drawing ? setDrawing(false) : prints.found ? prints.leave() : history.back()),
  })
  if (!plate || !correction)
    return (
      <div className="px-[30px] pt-7">
        {error && (
          <Empty title={w.correct.cannot} lead={error.message}>
            <Button onClick={() => history.back()}>{w.correct.back}</Button>
          </Empty>
        )}
      </div>
    )
  const shaped = (name: ShapeName, lying?: boolean) => {
    setChosen({ photo: id, shape: name })
    if (name === 'asShot') say({ shape: 'asShot' })
    // On all in hand each gets the shape about its own middle, lying or standing as it does itself.
    else if (name !== 'free' && onAll && lying === undefined) say({ shape: name })
    else if (name !== 'free')
      say({ crop: shapedCrop(correction, plate, name, lying ?? isLying(correction, plate)) })
  }
  const asCameIn = before || prints.found !== null
  return (
    <div className="grid h-full min-h-[34rem] grid-rows-[auto_minmax(0,1fr)] px-[30px] pt-7 pb-5">
      <div className="flex items-baseline gap-5 text-small text-quiet">
        <button type="button" className="hover:text-ink" onClick={() => history.back()}>
          ← {w.correct.back}
        </button>
        <span>{w.correct.title(at + 1, of)}</span>
        {isBusy && <span>{w.correct.saving}</span>}
        <span className="ml-auto flex gap-4">
          <Button
            look="word"
            hint="I"
            aria-pressed={before}
            className={before ? 'text-plum' : ''}
            onClick={() => setBefore(!before)}
          >
            {w.correct.before}
          </Button>
          {onGo && (
            <>
              <Button look="word" disabled={at === 0} onClick={() => onGo(at - 1)}>
                ← {w.plate.previous}
              </Button>
              <Button look="word" disabled={at + 1 >= of} onClick={() => onGo(at + 1)}>
                {w.plate.next} →
              </Button>
            </>
          )}
        </span>
      </div>
      <div className="mt-2 grid min-h-0 grid-cols-[minmax(0,1fr)_330px] gap-[34px] max-xl:grid-cols-[minmax(0,1fr)_290px] max-lg:grid-cols-1">
        <Stage
          key={id}
          plate={plate}
          correction={asCameIn ? none(plate) : correction}
          look={asCameIn ? 'light' : look}
          tones={asCameIn ? null : tones}
          ratio={keptRatio(correction, plate, shape)}
          drawing={drawing && !asCameIn}
          onCrop={(crop) => say({ crop })}
          onAngle={(angle) => {
            setDrawing(false)
            say({ angle: Math.max(-45, Math.min(45, Math.round(angle * 100) / 100)) })
          }}
          onFocus={(focus) => say({ focus })}
        >
          {prints.found && <PrintOutlines prints={prints} />}
        </Stage>
        <div className="min-h-0 overflow-y-auto">
          <h1 className="truncate text-head" title={plate.name}>
            {plate.name}
          </h1>
          {prints.found ? (
            <PrintsPart prints={prints} />
          ) : (
            <>
              {onOnAll && <Reach onAll={onAll} of={of} onChange={onOnAll} />}
              <div className="mt-3">
                <Recipe
                  plate={plate}
                  correction={correction}
                  look={look}
                  onLook={opened}
                  shape={shape}
                  onShape={shaped}
                  drawing={drawing}
                  onDraw={draw}
                  onMoving={setMoving}
                  say={say}
                />
              </div>
              <div className="mt-3 grid justify-items-start gap-2 text-small">
                {of > 1 && !onAll && (
                  <Button look="word" disabled={copy.isPending} onClick={() => copy.mutate(undefined)}>
                    {plate.isPart ? w.correct.copyLight(of - 1) : w.correct.copy(of - 1)}
                  </Button>
                )}
                <Button
                  look="word"
                  onClick={() => {
                    setChosen(null)
                    say({ reset: true })
                  }}
                >
                  {plate.isPart ? w.correct.resetLight : w.correct.reset}
                </Button>
                {!plate.isPart && (
                  <Button look="word" disabled={prints.isLooking} onClick={prints.look}>
                    {prints.isLooking ? w.correct.looking : w.correct.look}
                  </Button>
                )}
                {prints.isNone && <p className="text-quiet">{w.correct.foundNone}</p>}
              </div>
            </>
          )}
        </div>
      </div>
    </div>
  )
}

/** Whether what is changed goes on the photo that is shown, or on all in hand. */
function Reach({ onAll, of, onChange }: { onAll: boolean; of: number; onChange: (all: boolean) => void }) {
  return (
    <p className="mt-1 text-small">
      <span className="text-quiet">{w.correct.goesOn}</span>{' '}
      <Choice on={!onAll} onClick={() => onChange(false)}>
        {w.correct.onThis}
      </Choice>
      {' · '}
      <Choice on={onAll} onClick={() => onChange(true)}>
        {w.correct.onAll(of)}
      </Choice>
    </p>
  )
}

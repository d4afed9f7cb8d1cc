'use client'
import { Plus, Trash2 } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { CutList } from '@/core/calculate/cut-list'
import { cuttingOf, type Piece, piecesOf, reelOf, reelWords } from '@/core/documents/pieces'
import { grouped } from '@/core/grouped'
import type { Coil } from '@/core/job/coil'
import { formatLength } from '@/core/quantity/format'
import { api, ApiError } from '@/ui/api'
import { CheckField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { useJob, useUnits } from '../job/context'
import { LengthField } from '../job/measure-fields'

type Told = { readonly cut: CutList } | { readonly wrong: string }

/** What the ways ask for, and from which lengths it is cut so that least is bought. */
export function CutSheet() {
  const job = useJob((s) => s.job)
  const report = useJob((s) => s.report)
  const units = useUnits()
  const pieces = piecesOf(job, report)
  const { input, priced } = cuttingOf(job, pieces)
  const key = JSON.stringify(input)
  const [told, setTold] = useState<{ readonly key: string; readonly of: Told } | null>(null)
  const ready = input.pieces.length > 0 && input.stock.length > 0
  useEffect(() => {
    if (!ready) return
    let here = true
    const tell = (of: Told) => here && setTold({ key, of })
    api<CutList>('POST', '/api/calc/cut-list', key).then(
      (cut) => tell({ cut }),
      (e: unknown) => tell({ wrong: e instanceof ApiError ? e.message : String(e) }),
    )
    return () => {
      here = false
    }
  }, [key, ready])
  const current = told?.key === key ? told.of : null
  const reels = [...grouped(pieces, reelOf)]
  return (
    <Stage
      title="Route"
      drawing={
        pieces.length === 0 ? (
          <p className="text-ink-2">No way is taken yet: the sheet “Way” looks for them, and what each asks for is cut here.</p>
        ) : (
          <div className="flex flex-col gap-5">
            {reels.map(([reel, list]) => (
              <Reel
                key={reel}
                list={list}
                coils={(job.coils ?? []).filter((c) => reelOf(c) === reel)}
                cut={current && 'cut' in current ? current.cut : null}
              />
            ))}
            {current && 'wrong' in current && (
              <p role="alert" className="font-bold">
                {current.wrong}
              </p>
            )}
            {ready && current === null && <p className="text-ink-2">working it out…</p>}
            {current && 'cut' in current && (
              <p>
                {current.cut.boughtLengthM > 0 ? (
                  <>
                    To buy: <b>{formatLength(current.cut.boughtLengthM, units)}</b>
                    {priced && `, at the prices given ${current.cut.cost.toFixed(2)}`}.{' '}
                  </>
                ) : (
                  'Nothing is to be bought. '
                )}
                {!priced && 'Not every price is known: the least length is bought. '}
                {current.cut.optimal ? 'No cutting comes cheaper.' : 'Time ran out: a cheaper cutting may exist.'}
              </p>
            )}
          </div>
        )
      }
      working={
        <>
          {reels.map(([reel, list]) => (
            <Coils key={reel} of={list[0]!} coils={(job.coils ?? []).filter((c) => reelOf(c) === reel)} />
          ))}
          {reels.length === 0 && <p className="text-ink-2">Coils in the van and in the shop are entered once a way is taken.</p>}
        </>
      }
    />
  )
}

/** One kind of cable: its pieces, and each coil with what is cut from it, to scale. */
function Reel({ list, coils, cut }: { list: readonly Piece[]; coils: readonly Coil[]; cut: CutList | null }) {
  const units = useUnits()
  const names = new Map(list.map((p) => [p.id, p]))
  const total = list.reduce((sum, p) => sum + p.lengthM, 0)
  const cuts = cut?.cuts.filter((c) => coils.some((x) => x.id === c.stockId)) ?? []
  const longest = Math.max(1, ...cuts.map((c) => coils.find((x) => x.id === c.stockId)!.lengthM))
  return (
    <Section title={reelWords(list[0]!)} aside={<span className="text-ink-2">{formatLength(total, units)} in all</span>}>
      <ul>
        {list.map((p) => (
          <li key={p.id} className="flex gap-3 border-b border-rule py-1">
            <span className="min-w-0 flex-1">{p.name}</span>
            <b className="whitespace-nowrap">{formatLength(p.lengthM, units)}</b>
          </li>
        ))}
      </ul>
      {list[0]!.size === null && <p className="mt-1 text-ink-2">The circuit gives no size yet.</p>}
      {coils.length === 0 && list[0]!.size !== null && (
        <p className="mt-1 text-ink-2">No coil of it is entered: what is in the van, and what the shop has.</p>
      )}
      {cuts.map((c, i) => {
        const coil = coils.find((x) => x.id === c.stockId)!
        return (
          <div key={i} className="mt-2">
            <p className="text-[0.9rem] text-ink-2">
              {coil.onHand ? 'From the van' : 'Bought'}, {formatLength(coil.lengthM, units)}; left over {formatLength(c.offcutM, units)}
            </p>
            <div className="flex h-9 border border-ink" style={{ width: `${(100 * coil.lengthM) / longest}%` }}>
              {c.pieces.map((id) => (
                <span
                  key={id}
                  className="flex min-w-0 items-center overflow-hidden border-r border-ink bg-wash px-1 text-[0.85rem] whitespace-nowrap"
                  style={{ width: `${(100 * names.get(id)!.lengthM) / coil.lengthM}%` }}
                  title={names.get(id)!.name}
                >
                  <span className="truncate">{formatLength(names.get(id)!.lengthM, units)}</span>
                </span>
              ))}
            </div>
          </div>
        )
      })}
    </Section>
  )
}

/** Coils of one kind: in the van or in the shop. */
function Coils({ of, coils }: { of: Piece; coils: readonly Coil[] }) {
  const commit = useJob((s) => s.commit)
  const [next, setNext] = useState<number | null>(null)
  if (of.size === null) return null
  const add = (onHand: boolean) => {
    if (!next) return
    commit({ kind: 'coil.add', item: { id: crypto.randomUUID(), cable: of.cable, size: of.size!, lengthM: next, price: null, onHand } })
    setNext(null)
  }
  return (
    <Section title={reelWords(of)}>
      {coils.map((c) => (
        <div key={c.id} className="mb-3 border-b border-rule pb-2">
          <FieldGrid>
            <LengthField
              label={c.onHand ? 'Left in the van' : 'Sold in lengths of'}
              value={c.lengthM}
              min={0.1}
              max={10_000}
              onCommit={(lengthM) => lengthM && commit({ kind: 'coil.set', id: c.id, patch: { lengthM } })}
            />
            {!c.onHand && (
              <NumberField
                label="Price of one"
                optional
                placeholder="?"
                value={c.price}
                max={1e6}
                onCommit={(price) => commit({ kind: 'coil.set', id: c.id, patch: { price } })}
              />
            )}
            <CheckField
              label="In the van"
              value={c.onHand}
              onCommit={(onHand) => commit({ kind: 'coil.set', id: c.id, patch: { onHand } })}
            />
          </FieldGrid>
          <button type="button" className="btn" title="Undo brings it back" onClick={() => commit({ kind: 'coil.remove', id: c.id })}>
            <Trash2 size={15} aria-hidden /> Remove
          </button>
        </div>
      ))}
      <div className="flex flex-wrap items-end gap-2">
        <div className="w-36">
          <LengthField label="Another, so long" optional placeholder="?" value={next} max={10_000} onPreview={setNext} onCommit={setNext} />
        </div>
        <button type="button" className="btn" disabled={!next} onClick={() => add(true)}>
          <Plus size={16} aria-hidden /> In the van
        </button>
        <button type="button" className="btn" disabled={!next} onClick={() => add(false)}>
          <Plus size={16} aria-hidden /> In the shop
        </button>
      </div>
    </Section>
  )
}

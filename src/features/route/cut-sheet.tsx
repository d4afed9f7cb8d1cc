'use client'
import { Plus, Trash2 } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { CutList } from '@/core/calculate/cut-list'
import { cuttingOf, type Piece, piecesOf, reelOf, reelWords } from '@/core/workday/pieces'
import { coilItem, coilsIn, takenOf } from '@/core/workday/stock'
import { grouped } from '@/core/base/grouped'
import { atLeast } from '@/core/base/tolerance'
import type { Coil } from '@/core/job/coil'
import { formatLength } from '@/core/base/format'
import { api, ApiError } from '@/ui/api'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { useVan } from '../day/use-van'
import { useJob, useUnits } from '../sync/context'
import { LengthField } from '../fields/measure-fields'

type Told = { readonly cut: CutList } | { readonly wrong: string }

/** What the ways ask for, and from which lengths it is cut so that least is bought. */
export function CutSheet() {
  const job = useJob((s) => s.job)
  const report = useJob((s) => s.report)
  const units = useUnits()
  const id = useJob((s) => s.id)
  const van = useVan()
  const inVan = coilsIn(van ?? [])
  const pieces = piecesOf(job, report)
  const reels = [...grouped(pieces, reelOf)].map(([reel, list]) => ({
    reel,
    list,
    // All of it is cut and taken already: nothing of it is to be cut again.
    done: atLeast(
      takenOf(van ?? [], `cable ${reel}`, id),
      list.reduce((sum, p) => sum + p.lengthM, 0),
    ),
    coils: [...inVan, ...(job.coils ?? [])].filter((c) => reelOf(c) === reel),
  }))
  const { input, priced } = cuttingOf(
    job,
    reels.flatMap((r) => (r.done ? [] : r.list)),
    inVan,
  )
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
  return (
    <Stage
      title="Route"
      drawing={
        pieces.length === 0 ? (
          <p className="text-ink-2">No routes yet. Choose a route for each cable under Cable route; its length is cut here.</p>
        ) : (
          <div className="flex flex-col gap-5">
            {reels.map((r) => (
              <Reel key={r.reel} {...r} cut={current && 'cut' in current ? current.cut : null} />
            ))}
            {van === null && pieces.length > 0 && <p className="text-ink-2">What is in the van is not known without a connection.</p>}
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
                  'Nothing to buy. '
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
          {reels.map(({ reel, list, coils }) => (
            <Coils key={reel} of={list[0]!} coils={coils} />
          ))}
          {reels.length === 0 && <p className="text-ink-2">Choose a route first; then enter the rolls in the van and the shop.</p>}
        </>
      }
    />
  )
}

/** One kind of cable: its pieces, and each coil with what is cut from it, to scale. */
function Reel({ list, coils, cut, done }: { list: readonly Piece[]; coils: readonly Coil[]; cut: CutList | null; done: boolean }) {
  const units = useUnits()
  const job = useJob((s) => s.id)
  const move = useJob((s) => s.moveStock)
  const names = new Map(list.map((p) => [p.id, p]))
  const total = list.reduce((sum, p) => sum + p.lengthM, 0)
  const cuts = cut?.cuts.filter((c) => coils.some((x) => x.id === c.stockId)) ?? []
  const longest = Math.max(1, ...cuts.map((c) => coils.find((x) => x.id === c.stockId)!.lengthM))
  const fromVan = cuts.flatMap((c) => (c.stockId.startsWith('cable ') ? [{ item: c.stockId, pieces: c.pieces }] : []))
  const take = () => {
    for (const c of fromVan) {
      const count = Math.round(c.pieces.reduce((sum, id) => sum + names.get(id)!.lengthM, 0) * 100) / 100
      move({ item: c.item, what: reelWords(list[0]!), unit: 'm', kind: 'out', count, job })
    }
  }
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
      {done && <p className="mt-1 font-bold">All cut and taken from the van for this job.</p>}
      {!done && coils.length === 0 && list[0]!.size !== null && (
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
      {!done && fromVan.length > 0 && (
        <button type="button" className="btn mt-3" onClick={take}>
          Cut: take it from the van
        </button>
      )}
    </Section>
  )
}

/** Coils of one kind: in the van or in the shop. */
function Coils({ of, coils }: { of: Piece; coils: readonly Coil[] }) {
  const commit = useJob((s) => s.commit)
  const move = useJob((s) => s.moveStock)
  const [next, setNext] = useState<number | null>(null)
  if (of.size === null) return null
  const kind = { cable: of.cable, size: of.size }
  const intoVan = (lengthM: number, counted: boolean) =>
    move({
      item: coilItem(kind, crypto.randomUUID().slice(0, 8)),
      what: reelWords(of),
      unit: 'm',
      kind: counted ? 'counted' : 'in',
      count: lengthM,
      job: null,
    })
  const add = (onHand: boolean) => {
    if (!next) return
    if (onHand) intoVan(next, true)
    else commit({ kind: 'coil.add', item: { id: crypto.randomUUID(), ...kind, lengthM: next, price: null, onHand: false } })
    setNext(null)
  }
  const ofVan = (c: Coil): boolean => c.id.startsWith('cable ')
  return (
    <Section title={reelWords(of)}>
      {coils.map((c) => (
        <div key={c.id} className="mb-3 border-b border-rule pb-2">
          <FieldGrid>
            <LengthField
              label={c.onHand ? 'Left in the van' : 'Sold in lengths of'}
              value={c.lengthM}
              min={ofVan(c) ? 0 : 0.1}
              max={10_000}
              onCommit={(lengthM) => {
                if (lengthM === null) return
                if (ofVan(c)) move({ item: c.id, what: reelWords(of), unit: 'm', kind: 'counted', count: lengthM, job: null })
                else if (lengthM) commit({ kind: 'coil.set', id: c.id, patch: { lengthM } })
              }}
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
          </FieldGrid>
          {ofVan(c) ? (
            <p className="text-[0.9rem] text-ink-2">
              Of the van, for all jobs: what is cut from it is taken out of its book, the rest stays.
            </p>
          ) : (
            <div className="mt-1 flex flex-wrap gap-2">
              <button type="button" className="btn" onClick={() => intoVan(c.lengthM, false)}>
                Bought: into the van
              </button>
              <button type="button" className="btn" title="Undo brings it back" onClick={() => commit({ kind: 'coil.remove', id: c.id })}>
                <Trash2 size={15} aria-hidden /> Remove
              </button>
            </div>
          )}
        </div>
      ))}
      <div className="flex flex-wrap items-end gap-2">
        <div className="w-36">
          <LengthField label="Add roll" optional placeholder="?" value={next} max={10_000} onPreview={setNext} onCommit={setNext} />
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

'use client'
import { Printer } from 'lucide-react'
import { useState } from 'react'
import { mountingDrawing, nameOfLayer } from '@/core/drawing/mounting'
import { mountingOf, type MountReport } from '@/core/build/mounting'
import type { PlacedPoint } from '@/core/job/point'
import { type MountRecord, layerKinds } from '@/core/job/mount'
import { FittingDrawing } from '@/ui/drawing'
import { ChoiceField, SelectField } from '@/ui/fields'
import { formatSmallLength } from '@/core/base/format'
import { SmallLengthField } from '../fields/measure-fields'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { useCircuit, useJob, useUnits } from '../sync/context'
import { useEnd } from '../fields/end-picker'
import { Findings } from '../fields/findings'
import { useLed } from '../fields/use-led'
import { PaperLink } from '../fields/paper-link'

const behinds = [
  { value: 'finished', label: 'Wall is finished' },
  { value: 'open', label: 'Framing is open' },
  { value: 'masonry', label: 'Masonry' },
  { value: 'surface', label: 'Only the face' },
] as const

/** How the box of a point is held: layers, clamp, depth, stud, and what is cut. */
export function MountSheet() {
  const { end, picker } = useEnd('boxes', 'mount')
  const { circuit } = useCircuit()
  const job = useJob((s) => s.job)
  const id = useJob((s) => s.id)
  const commit = useJob((s) => s.commit)
  const units = useUnits()
  const points = circuit.points.length ? circuit.points : circuit.end ? [circuit.end] : []
  const [picked, setPicked] = useState<string | null>(null)
  useLed('boxes', 'mount', (_, id) => setPicked(id))
  const alike = points.filter((p) => end.points.includes(p.id))
  const point = alike.find((p) => p.id === picked) ?? alike[0]
  if (!point)
    return (
      <Stage
        title="Boxes"
        drawing={<p className="m-auto max-w-sm text-center text-ink-2">A feeder ends in a board, which has no box.</p>}
        working={<p className="text-ink-2">Nothing to hold.</p>}
      />
    )
  const beside = points.filter(
    (p) => p.box.id !== point.box.id && p.wall && p.wall.wall === point.wall?.wall && p.wall.outside === point.wall.outside,
  )
  const report = mountingOf(job, circuit, point, units, beside)
  const { mount, box, advice } = report
  const others = points.filter((p) => p.box.id !== point.box.id)
  return (
    <Stage
      title="Boxes"
      drawing={
        <div className="flex min-h-full flex-col gap-3">
          <div className="no-print flex flex-wrap items-center gap-2">
            {picker}
            <PointPicker points={alike} value={point.id} onPick={setPicked} />
            <span className="flex-1" />
            {report.cutMm && box && (
              <PaperLink className="btn" job={id} file={`template.pdf?point=${point.id}`} name="Template to cut by">
                <Printer size={16} aria-hidden /> Template, real size
              </PaperLink>
            )}
          </div>
          <p>
            <b>{advice.mounting === null ? 'Which kind of box?' : `A box that ${mountWords[advice.mounting]}.`}</b> {advice.why}
          </p>
          <div className="flex shrink-0 overflow-x-auto" tabIndex={0} role="region" aria-label="The wall, cut through">
            <FittingDrawing draw={(format) => mountingDrawing(report, point.heightMm, units, format)} className="max-h-[34rem] w-full" />
          </div>
          <Section title="At the wall">
            <ol className="list-decimal pl-6">
              {report.steps.map((s) => (
                <li key={s.text} className="py-0.5">
                  {s.text} {s.clause && <span className="text-[0.85rem] text-ink-2">{s.clause}</span>}
                </li>
              ))}
            </ol>
          </Section>
        </div>
      }
      working={
        <>
          <WhatIsThere point={point} mount={mount} />
          {box && box.mounting !== 'surface' && <BoxInHand of={point.box.id} report={report} />}
          <Section title="Findings">
            <Findings
              stage="boxes"
              findings={report.findings}
              empty={box ? 'It can be held there, by what was entered.' : 'Choose a box on the sheet “Size” to have it judged.'}
            />
          </Section>
          {others.length > 0 && point.box.mount && (
            <button
              type="button"
              className="btn w-full"
              onClick={() => {
                const { layers, behind, cavityMm, gripMm, outlineMm } = mount
                commit({ kind: 'mount.set', boxes: others.map((p) => p.box.id), patch: { layers, behind, cavityMm, gripMm, outlineMm } })
              }}
            >
              The wall is the same at the {others.length} other {others.length === 1 ? 'point' : 'points'}
            </button>
          )}
        </>
      }
    />
  )
}

/** Which of several points that are alike. */
function PointPicker({
  points,
  value,
  onPick,
}: {
  points: readonly Pick<PlacedPoint, 'id' | 'name'>[]
  value: string
  onPick: (id: string) => void
}) {
  const { circuit } = useCircuit()
  if (points.length < 2) return null
  return (
    <>
      <label className="sr-only" htmlFor="mount-point">
        Point
      </label>
      <select id="mount-point" className="field min-w-0 max-w-64" value={value} onChange={(e) => onPick(e.target.value)}>
        {points.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name || circuit.name}
          </option>
        ))}
      </select>
    </>
  )
}

/** Sets facts of how the box of a point is held. */
function useMount(box: string): (patch: Partial<MountRecord>) => void {
  const commit = useJob((s) => s.commit)
  return (patch) => commit({ kind: 'mount.set', boxes: [box], patch })
}

/** The layers of the wall, and what is behind them and beside. */
function WhatIsThere({ point, mount }: { point: PlacedPoint; mount: MountRecord }) {
  const commit = useJob((s) => s.commit)
  const set = useMount(point.box.id)
  return (
    <Section title="What is there">
      <FieldGrid>
        <ChoiceField label="Wall type" value={mount.behind} options={[...behinds]} onCommit={(behind) => set({ behind })} />
        <Layers layers={mount.layers} onSet={(layers) => set({ layers: [...layers] })} />
        <SmallLengthField
          label="Set back from the face"
          value={mount.setBackMm ?? null}
          max={200}
          onCommit={(setBackMm) => set({ setBackMm })}
        />
        <SmallLengthField label="Free behind it" value={mount.cavityMm} max={1000} onCommit={(cavityMm) => set({ cavityMm })} />
        <SmallLengthField label="Middle to the nearest stud" value={mount.studMm} max={2000} onCommit={(studMm) => set({ studMm })} />
        <SmallLengthField
          label="Height of its middle"
          value={point.heightMm}
          max={10_000}
          onCommit={(heightMm) => commit({ kind: 'point.set', id: point.id, patch: { heightMm } })}
        />
        {point.kind === 'light' && point.wall === null && (
          <ChoiceField
            label="May a fan be hung there?"
            value={mount.fan === null ? null : mount.fan ? 'yes' : 'no'}
            options={[
              { value: 'yes', label: 'Yes' },
              { value: 'no', label: 'No' },
            ]}
            onCommit={(v) => set({ fan: v === 'yes' })}
          />
        )}
      </FieldGrid>
    </Section>
  )
}

type Layer = MountRecord['layers'][number]
function Layers({ layers, onSet }: { layers: readonly Layer[]; onSet: (layers: readonly Layer[]) => void }) {
  const units = useUnits()
  const change = (i: number, to: Partial<Layer> | null) => onSet(layers.flatMap((l, k) => (k !== i ? [l] : to ? [{ ...l, ...to }] : [])))
  return (
    <>
      {layers.map((l, i) => (
        <div key={i} className="col-span-full grid grid-cols-[1fr_1fr_auto] items-end gap-2">
          <SelectField
            label={`Layer ${i + 1} from the face`}
            value={l.what}
            options={layerKinds.map((k) => ({ value: k, label: nameOfLayer(k) }))}
            onCommit={(what) => change(i, { what })}
          />
          <SmallLengthField label="Thick" value={l.mm} max={400} onCommit={(mm) => mm !== null && mm > 0 && change(i, { mm })} />
          <button type="button" className="btn" onClick={() => change(i, null)} aria-label={`Layer ${i + 1} away`}>
            Away
          </button>
        </div>
      ))}
      {layers.length < 8 && (
        <SelectField
          wide
          label="One layer more, further in"
          value=""
          options={layerKinds.map((k) => ({
            value: k,
            label: `${nameOfLayer(k)}, ${formatSmallLength(usualMm[k], units)} until measured`,
          }))}
          onCommit={(what) => onSet([...layers, { what, mm: usualMm[what] }])}
        />
      )}
    </>
  )
}

/** The box itself, as measured in the hand. */
function BoxInHand({ of, report }: { of: string; report: MountReport }) {
  const set = useMount(of)
  const { mount, box, cutMm, gripMm, measured } = report
  const outline = mount.outlineMm ?? [null, null]
  const setOutline = (at: 0 | 1, mm: number | null) => {
    const next = [at === 0 ? mm : outline[0], at === 1 ? mm : outline[1]] as const
    const usual = cutMm ? ([cutMm[0] - 3, cutMm[1] - 3] as const) : null
    if (mm === null || !usual) return set({ outlineMm: null })
    set({ outlineMm: [next[0] ?? usual[0], next[1] ?? usual[1]] })
  }
  return (
    <Section title="The box in your hand">
      <FieldGrid>
        <SmallLengthField label="Wide, outside" value={outline[0]} max={400} onCommit={(v) => setOutline(0, v)} />
        <SmallLengthField label="High, outside" value={outline[1]} max={400} onCommit={(v) => setOutline(1, v)} />
        {box?.mounting === 'clamps to a finished wall' && (
          <>
            <SmallLengthField
              label="Clamp grips from"
              value={mount.gripMm?.[0] ?? null}
              max={200}
              onCommit={(v) => set({ gripMm: v === null ? null : [v, Math.max(v, gripMm[1])] })}
            />
            <SmallLengthField
              label="up to"
              value={mount.gripMm?.[1] ?? null}
              max={200}
              onCommit={(v) => set({ gripMm: v === null || v <= 0 ? null : [Math.min(v, gripMm[0]), v] })}
            />
          </>
        )}
      </FieldGrid>
      {!measured && <p className="mt-1 text-[0.9rem] text-ink-2">Until you measure yours, usual sizes are drawn.</p>}
    </Section>
  )
}

const usualMm = { board: 12.5, plaster: 13, tile: 8, panelling: 12, cabinet: 16, gap: 10, insulation: 50, masonry: 100 } as const
const mountWords = {
  'clamps to a finished wall': 'clamps to a finished wall',
  'nails to a stud': 'nails to a stud',
  'screws to framing': 'screws to framing',
  surface: 'surface-mounted',
  'set in masonry': 'is set in the wall and screwed',
  ceiling: 'is made for a ceiling',
  'set in a floor': 'is set in a floor',
} as const

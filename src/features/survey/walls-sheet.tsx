'use client'
import { Plus, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { alongWall, wallDrawing } from '@/core/drawing/wall'
import { newWall, pieceKinds, wallKinds } from '@/core/job/room'
import type { Wall } from '@/core/installation/installation'
import { runLength, runReport } from '@/core/survey/walls'
import { FittingDrawing } from '@/ui/drawing'
import { CheckField, ChoiceField, SelectField, TextField } from '@/ui/fields'
import { blankPoint } from '@/core/job/point'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { useJob, useUnits } from '../sync/context'
import { Findings } from '../fields/findings'
import { useLed } from '../fields/use-led'
import type { PatchOfPoint, PatchOfWall } from '../fields/patches'
import { LengthField, SmallLengthField } from '../fields/measure-fields'
import { worlds } from '@/core/region/worlds'

const runNames: Record<Wall['kind'], string> = { wall: 'Wall', counter: 'Counter', island: 'Island or peninsula', hallway: 'Hallway' }
const pieceNames: Record<(typeof pieceKinds)[number], string> = {
  wall: 'Clear length',
  door: 'Door or opening',
  window: 'Window',
  fixed: 'Fixed to the floor',
  cabinets: 'Base cabinets',
  stairs: 'Stairs',
  sink: 'Sink',
  basin: 'Basin',
  bath: 'Bath',
  shower: 'Shower',
}

const nameOf = (wall: Wall): string => [wall.room, wall.name].filter(Boolean).join(': ')

/** Walls, counters and hallways with the outlets along them: too far apart (NA), too near water or at another height (UK, ZA). */
export function WallsSheet() {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const preview = useJob((s) => s.show)
  const units = useUnits()
  const [runId, setRunId] = useState<string | null>(null)
  const [outletId, setOutletId] = useState<string | null>(null)
  const { walls: runs } = job
  useLed('survey', 'walls', (kind, id) => {
    setRunId(kind === 'wall' ? id : (runs.find((r) => r.outlets.some((o) => o.id === id))?.id ?? null))
    setOutletId(kind === 'wall' ? null : id)
  })
  const run = runs.find((r) => r.id === runId) ?? runs[0]
  const add = () => {
    const made = newWall(crypto.randomUUID(), `Wall ${runs.length + 1}`)
    commit({ kind: 'wall.add', item: { ...made, room: '' } })
    setRunId(made.id)
  }
  const pick = (id: string) => (setRunId(id), setOutletId(null))
  const addButton = (
    <button type="button" className="btn" onClick={add}>
      <Plus size={16} aria-hidden /> Add a wall or counter
    </button>
  )
  if (!run)
    return (
      <Stage
        title="Survey"
        drawing={
          <>
            <p className="mb-3 text-ink-2">
              No walls are measured yet. Measure one along the floor, from corner to corner, with its doors and fixed pieces.
            </p>
            {addButton}
          </>
        }
        working={<p className="text-ink-2">{worlds[job.region].says.walls}</p>}
      />
    )
  const report = runReport(job.region, run, units)
  const set = (patch: PatchOfWall) => commit({ kind: 'wall.set', id: run.id, patch })
  const snap = (m: number) => Math.round(Math.min(Math.max(m, 0), runLength(run)) * 100) / 100
  const moved = (part: string, x: number, format: 'wide' | 'narrow') => ({
    kind: 'point.set' as const,
    id: part.slice('outlet:'.length),
    patch: { wall: { wall: run.id, atM: snap(alongWall(run, x, format)) } },
  })
  const put = (at: readonly number[]) =>
    commit({
      kind: 'point.add',
      points: at.map((atM, i) =>
        blankPoint(crypto.randomUUID(), `${run.name}, outlet ${run.outlets.length + i + 1}`.slice(0, 120), {
          room: run.room,
          state: 'new',
          wall: { wall: run.id, atM: snap(atM) },
          heightMm: run.outlets.at(-1)?.heightMm ?? null,
        }),
      ),
    })
  return (
    <Stage
      title="Survey"
      drawing={
        <div className="flex flex-col gap-3">
          <div className="no-print flex flex-col items-start gap-2 md:hidden">
            <div className="w-full">
              <SelectField label="Wall" value={run.id} options={runs.map((r) => ({ value: r.id, label: nameOf(r) }))} onCommit={pick} />
            </div>
            {addButton}
          </div>
          <div className="no-print flex flex-wrap gap-2 max-md:hidden">
            {runs.map((r) => (
              <button
                key={r.id}
                type="button"
                className={`btn ${r.id === run.id ? 'border-ink font-bold' : ''}`}
                aria-pressed={r.id === run.id}
                onClick={() => pick(r.id)}
              >
                {nameOf(r)}
              </button>
            ))}
            {addButton}
          </div>
          <div className="overflow-x-auto">
            <FittingDrawing
              draw={(format) => wallDrawing(run, report, units, format)}
              selected={outletId ? `outlet:${outletId}` : null}
              onSelect={(p) => setOutletId(p.replace('outlet:', ''))}
              onDrag={(part, x, settled, format) => (settled ? commit(moved(part, x, format)) : preview(moved(part, x, format)))}
              className="w-full"
            />
          </div>
          <div className="no-print flex flex-wrap gap-2" role="group" aria-label="Outlets along it" tabIndex={-1}>
            {report.missing.length > 0 && (
              <button type="button" className="btn btn-ink" onClick={() => put(report.missing)}>
                Put the {report.missing.length === 1 ? 'missing outlet' : `${report.missing.length} missing outlets`} in
              </button>
            )}
            <button type="button" className="btn" onClick={() => put([runLength(run) / 2])}>
              <Plus size={16} aria-hidden /> Outlet
            </button>
            <p className="self-center text-[0.9rem] text-ink-2">Drag an outlet along the wall, or pick it and type where it is.</p>
          </div>
          <Pieces run={run} set={set} />
        </div>
      }
      working={
        <>
          <Outlet run={run} id={outletId} />
          <Section title={run.name}>
            <FieldGrid>
              <TextField label="Name" value={run.name} onCommit={(name) => name.trim() && set({ name: name.slice(0, 120) })} />
              <TextField label="Room" value={run.room} onCommit={(room) => set({ room: room.slice(0, 120) })} />
              <ChoiceField
                label="What it is"
                value={run.kind}
                options={wallKinds.map((k) => ({ value: k, label: runNames[k] }))}
                onCommit={(kind) => set({ kind })}
              />
              {run.kind === 'island' && <IslandFields run={run} set={set} />}
            </FieldGrid>
            <button
              type="button"
              className="btn mt-3"
              title="Undo brings it back"
              onClick={() => commit({ kind: 'wall.remove', id: run.id })}
            >
              <Trash2 size={15} aria-hidden /> <span className="truncate">Remove {run.name}</span>
            </button>
          </Section>
          <Section title="Findings">
            <Findings stage="survey" findings={report.findings} empty="Nothing is wrong with the outlets along it as measured." />
          </Section>
        </>
      }
    />
  )
}

/** What the outlets of an island or peninsula go by, besides its length. */
function IslandFields({ run, set }: { run: Wall; set: (patch: PatchOfWall) => void }) {
  return (
    <>
      <LengthField
        label="Depth of its counter"
        optional
        value={run.depthM ?? null}
        min={0.05}
        max={20}
        onCommit={(depthM) => set({ depthM })}
      />
      <ChoiceField
        label="Provision for a later outlet"
        value={run.forLater == null ? 'unknown' : run.forLater ? 'yes' : 'no'}
        options={[
          { value: 'yes', label: 'Cable or raceway' },
          { value: 'no', label: 'None' },
          { value: 'unknown', label: 'Not known' },
        ]}
        onCommit={(v) => set({ forLater: v === 'unknown' ? null : v === 'yes' })}
      />
    </>
  )
}

/** The pieces in order along the floor; their lengths add up to the wall. */
function Pieces({ run, set }: { run: Wall; set: (patch: PatchOfWall) => void }) {
  const change = (id: string, patch: Partial<Wall['pieces'][number]>) =>
    set({ pieces: run.pieces.map((p) => (p.id === id ? { ...p, ...patch } : p)) })
  return (
    <Section title="Along the floor, left to right">
      <ol>
        {run.pieces.map((p, i) => (
          <li key={p.id} className="flex items-end gap-2 border-b border-rule py-1.5 [&_label]:sr-only">
            <span className="w-5 pb-1.5 text-right text-ink-2">{i + 1}</span>
            <div className="w-52">
              <SelectField
                label={`Piece ${i + 1}`}
                value={p.what}
                options={pieceKinds.map((k) => ({ value: k, label: pieceNames[k] }))}
                onCommit={(what) => change(p.id, { what })}
              />
            </div>
            <div className="w-32">
              <LengthField
                label={`Length of piece ${i + 1}`}
                value={p.lengthM}
                min={0.01}
                max={200}
                onCommit={(v) => v && change(p.id, { lengthM: v })}
              />
            </div>
            <button
              type="button"
              className="btn no-print px-2"
              disabled={run.pieces.length === 1}
              aria-label={`Remove piece ${i + 1}`}
              onClick={() => set({ pieces: run.pieces.filter((x) => x.id !== p.id) })}
            >
              <Trash2 size={15} aria-hidden />
            </button>
          </li>
        ))}
      </ol>
      <button
        type="button"
        className="btn no-print mt-2"
        onClick={() =>
          set({
            pieces: [
              ...run.pieces,
              {
                id: crypto.randomUUID(),
                what: run.pieces.at(-1)?.what === 'wall' ? 'door' : 'wall',
                lengthM: run.pieces.at(-1)?.what === 'wall' ? 0.9 : 2,
              },
            ],
          })
        }
      >
        <Plus size={16} aria-hidden /> Next piece
      </button>
    </Section>
  )
}

/** One point along the wall: the same record as in the list of points. */
function Outlet({ run, id }: { run: Wall; id: string | null }) {
  const commit = useJob((s) => s.commit)
  const points = useJob((s) => s.job.points)
  const outlet = run.outlets.find((o) => o.id === id)
  if (!outlet) return null
  const point = points.find((p) => p.id === outlet.id)!
  const change = (patch: PatchOfPoint) => commit({ kind: 'point.set', id: outlet.id, patch })
  return (
    <Section title={point.name}>
      <FieldGrid>
        <CheckField
          label="New: not installed yet"
          value={point.planned}
          onCommit={(planned) => change({ state: planned ? 'new' : 'existing' })}
        />
        <LengthField
          label="From the left"
          value={outlet.atM}
          max={200}
          onCommit={(atM) => atM !== null && change({ wall: { wall: run.id, atM } })}
        />
        <SmallLengthField
          label="Height of its centre"
          optional
          value={outlet.heightMm}
          max={5000}
          onCommit={(heightMm) => change({ heightMm })}
        />
      </FieldGrid>
      <button type="button" className="btn mt-2" title="Undo brings it back" onClick={() => change({ wall: null })}>
        <Trash2 size={15} aria-hidden /> Take it off this wall
      </button>
    </Section>
  )
}

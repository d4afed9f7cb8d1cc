'use client'
import { Say } from '@/ui/worded'
import { Trash2, X } from 'lucide-react'
import { formatA } from '@/core/base/format'
import { residualTypes } from '@/core/job/fields'
import { breakerTypes } from '@/core/region/types'
import { barFor, barName, type BoardReport, legOf } from '@/core/survey/board'
import { type Board, MAIN_BOARD, type ResidualDevice, type Way } from '@/core/job/board'
import { hvacKinds } from '@/core/job/report'
import { CheckField, ChoiceField, type Option, SelectField, TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob } from '../sync/context'
import { DemandTable } from '../fields/demand-table'
import { AreaField } from '../fields/measure-fields'
import { worlds } from '@/core/region/worlds'

const kindOptions: Option<Way['kind']>[] = [
  { value: 'circuit', label: 'Circuit' },
  { value: 'feeder', label: 'Feeds a board' },
  { value: 'source', label: 'Source (generator, solar)' },
  { value: 'spare', label: 'Spare' },
]
const shapeOptions: Option<Way['shape']>[] = [
  { value: 'radial', label: 'Radial' },
  { value: 'ring', label: 'Ring' },
  { value: 'unknown', label: 'Not known' },
]
const switchOptions: Option<Board['mainSwitch']>[] = [
  { value: 'double-pole', label: 'Two-pole' },
  { value: 'single-pole', label: 'One-pole' },
  { value: 'none', label: 'None' },
  { value: 'unknown', label: 'Not checked' },
]

/** One way in full: what it is, where it is, what guards it and where its neutral goes. */
export function WayFields({ way, onClose }: { way: Way; onClose: () => void }) {
  const job = useJob((s) => s.job)
  const load = useJob((s) => s.report.survey.loads.find((l) => l.way.id === way.id))
  const proved = useJob((s) => s.report.survey.proved.has(way.id))
  const commit = useJob((s) => s.commit)
  const words = worlds[job.region].words
  const na = worlds[job.region].boardManner === 'columns'
  const set = (patch: Partial<Omit<Way, 'id'>>) => commit({ kind: 'way.set', id: way.id, patch })
  const guards = job.residualDevices.filter((g) => g.board === way.board)
  const wanted = barFor(way)
  const remove = () => {
    commit({ kind: 'way.remove', id: way.id })
    onClose()
  }
  return (
    <Section title={`Way ${way.position ?? ''} ${way.label}`.trim()} aside={<CloseButton onClose={onClose} />}>
      <FieldGrid>
        <TextField
          label="Label as found"
          wide
          value={way.label}
          onCommit={(label) => set({ label: label.slice(0, 80) })}
          hint={proved ? 'What it feeds is proved.' : 'Not trusted until it is switched off and checked.'}
        />
        <NumberField
          label="Rating"
          unit="A"
          optional
          value={way.ratingA}
          max={1000}
          onCommit={(ratingA) => set({ ratingA: ratingA || null })}
        />
        <NumberField
          label={na ? 'Space' : 'Place on the rail'}
          optional
          whole
          min={1}
          max={84}
          value={way.position}
          onCommit={(position) => set({ position })}
          hint={na && way.position !== null ? `Leg ${way.poles === 2 ? 'A and B' : legOf(way.position)}` : undefined}
        />
        <ChoiceField
          label="Poles"
          wide={false}
          value={String(way.poles) as '1' | '2'}
          options={[
            { value: '1', label: 'One' },
            { value: '2', label: 'Two' },
          ]}
          onCommit={(v) => set({ poles: v === '2' ? 2 : 1, half: null })}
        />
        {na ? (
          <SelectField
            label="Tandem half"
            value={way.half ?? 'no'}
            options={[
              { value: 'no', label: 'No' },
              { value: 'a', label: 'a' },
              { value: 'b', label: 'b' },
            ]}
            onCommit={(v) => set({ half: v === 'no' ? null : v })}
          />
        ) : (
          <SelectField
            label="Type"
            value={way.curve ?? '?'}
            options={[{ value: '?', label: 'Not read' }, ...breakerTypes.map((b) => ({ value: b, label: b }))]}
            onCommit={(v) => set({ curve: v === '?' ? null : v })}
          />
        )}
        <SelectField label="What it is" value={way.kind} options={kindOptions} onCommit={(kind) => set({ kind })} />
        {worlds[job.region].rings && (
          <SelectField label="Shape" value={way.shape} options={shapeOptions} onCommit={(shape) => set({ shape })} />
        )}
        <SelectField
          label="Protected by"
          wide
          value={way.residual}
          options={[
            { value: 'unknown', label: 'Not checked' },
            { value: 'none', label: `No ${words.rcd}` },
            { value: 'own', label: `Its own ${words.rcd}` },
            ...guards.map((g) => ({ value: g.id, label: `${g.name}, ${g.tripMa ?? '?'} mA` })),
          ]}
          onCommit={(residual) => set({ residual })}
        />
        <SelectField
          label="Neutral bar"
          wide
          value={way.bar ?? '?'}
          options={[
            { value: '?', label: 'Not checked' },
            { value: 'main', label: 'Main neutral bar' },
            ...guards.map((g) => ({ value: g.id, label: `Neutral bar of ${g.name}` })),
          ]}
          onCommit={(v) => set({ bar: v === '?' ? null : v })}
        />
        <p className="col-span-full text-[0.9rem]">
          {wanted === null
            ? 'Record what protects it first: that decides which neutral bar it must use.'
            : `Its neutral must be on the ${barName(job, wanted)}.`}
        </p>
        <CheckField label="Fed from ahead of the main switch" value={way.ahead} onCommit={(ahead) => set({ ahead })} />
      </FieldGrid>
      {load && load.points.length > 0 && (
        <p className="mt-2">
          Feeds {load.points.length} traced {load.points.length === 1 ? 'point' : 'points'}, <b>{formatA(load.amps)}</b>
          {load.unknown > 0 && `, and ${load.unknown} of unknown load`}
          {way.ratingA !== null && ` of ${formatA(way.ratingA)}`}.
        </p>
      )}
      <button type="button" className="btn mt-3" onClick={remove} title="Undo brings it back">
        <Trash2 size={15} aria-hidden /> Remove this way
      </button>
    </Section>
  )
}

export function BoardFields({ report }: { report: BoardReport }) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const { board } = report
  const na = worlds[job.region].boardManner === 'columns'
  const words = worlds[job.region].words
  const set = (patch: Partial<Omit<Board, 'id'>>) => commit({ kind: 'board.set', id: board.id, patch })
  const feeders = job.ways.filter((w) => w.board !== board.id)
  const main = board.id === MAIN_BOARD
  const { left, free } = report
  const unseen = left?.filter((s) => !board.free?.includes(s)) ?? []
  return (
    <>
      <Section title={main ? `The ${words.board}` : 'Sub-board'}>
        <p className="mb-2 text-[0.9rem]">
          Covers off only with the main off, and the supply side still live behind it. A service conductor is the supplier’s: leave it
          alone.
        </p>
        <FieldGrid>
          {main ? (
            <TextField
              label="Name"
              wide
              value={job.supply.board}
              onCommit={(v) => commit({ kind: 'supply.set', patch: { board: v.slice(0, 200) } })}
            />
          ) : (
            <TextField label="Name" wide value={board.name} onCommit={(name) => set({ name: name.slice(0, 120) })} />
          )}
          <NumberField
            label={na ? 'Spaces' : 'Ways'}
            optional
            whole
            min={1}
            max={84}
            value={board.spaces}
            onCommit={(spaces) => set({ spaces })}
          />
          <NumberField label="Main" unit="A" optional max={1000} value={board.mainA} onCommit={(mainA) => set({ mainA: mainA || null })} />
          {board.spaces !== null && (
            <div className="col-span-full">
              <p className="text-[0.9rem]">
                {board.free === null
                  ? `Free ${words.spaces}: not checked.`
                  : unseen.length
                    ? `Not checked: ${unseen.join(', ')}.`
                    : `Every ${words.space} is checked${free ? '' : '; note the place of each way'}.`}
              </p>
              {unseen.length > 0 && (
                <button type="button" className="btn mt-1 w-full" onClick={() => set({ free: [...left!].toSorted((a, b) => a - b) })}>
                  {unseen.length === left!.length ? 'All others checked: spare' : 'These are spare too (checked)'}
                </button>
              )}
            </div>
          )}
          <ChoiceField
            label="Main switch"
            value={board.mainSwitch}
            options={switchOptions}
            onCommit={(mainSwitch) => set({ mainSwitch })}
          />
          {!main && (
            <>
              <SelectField
                label="Fed from"
                wide
                value={board.fedFrom ?? '?'}
                options={[{ value: '?', label: 'Not known' }, ...feeders.map((w) => ({ value: w.id, label: w.label }))]}
                onCommit={(v) => {
                  set({ fedFrom: v === '?' ? null : v })
                  if (v !== '?') commit({ kind: 'way.set', id: v, patch: { kind: 'feeder' } })
                }}
              />
              <button
                type="button"
                className="btn col-span-full"
                onClick={() => commit({ kind: 'board.remove', id: board.id })}
                title="Undo brings it back"
              >
                <Trash2 size={15} aria-hidden /> <Say>Remove this board and its ways</Say>
              </button>
            </>
          )}
        </FieldGrid>
      </Section>
    </>
  )
}

/** One residual device: every way that names it is behind it, and returns on its neutral bar. */
export function GuardFields({ guard, onClose }: { guard: ResidualDevice; onClose: () => void }) {
  const commit = useJob((s) => s.commit)
  const behind = useJob((s) => s.job.ways).filter((w) => w.residual === guard.id)
  const set = (patch: Partial<Omit<ResidualDevice, 'id'>>) => commit({ kind: 'residual-device.set', id: guard.id, patch })
  return (
    <Section title={guard.name} aside={<CloseButton onClose={onClose} />}>
      <FieldGrid>
        <TextField label="Name" wide value={guard.name} onCommit={(name) => set({ name: name.slice(0, 80) || guard.name })} />
        <NumberField
          label="Trips at"
          unit="mA"
          optional
          placeholder="not read"
          min={1}
          max={1000}
          value={guard.tripMa}
          onCommit={(tripMa) => set({ tripMa: tripMa || null })}
        />
        <NumberField
          label="Rating"
          unit="A"
          optional
          max={1000}
          value={guard.ratingA}
          onCommit={(ratingA) => set({ ratingA: ratingA || null })}
        />
        <SelectField
          label="Type marked on it"
          value={guard.type ?? '?'}
          options={[{ value: '?', label: 'Not checked' }, ...residualTypes.map((t) => ({ value: t, label: `Type ${t}` }))]}
          onCommit={(v) => set({ type: v === '?' ? null : v })}
        />
        <SelectField
          label="Time-delayed (S)"
          value={guard.delayed === null ? '?' : guard.delayed ? 'yes' : 'no'}
          options={[
            { value: '?', label: 'Not checked' },
            { value: 'no', label: 'No' },
            { value: 'yes', label: 'Yes' },
          ]}
          onCommit={(v) => set({ delayed: v === '?' ? null : v === 'yes' })}
        />
      </FieldGrid>
      <p className="mt-2">
        {behind.length === 0
          ? 'No ways behind it yet. Open a way and set “Protected by”.'
          : `Behind it: ${behind.map((w) => w.label).join(', ')}. Their neutrals belong on its own bar.`}
      </p>
      <button
        type="button"
        className="btn mt-2"
        onClick={() => {
          commit({ kind: 'residual-device.remove', id: guard.id })
          onClose()
        }}
        title="Undo brings it back"
      >
        <Trash2 size={15} aria-hidden /> <span className="truncate">Remove {guard.name}</span>
      </button>
    </Section>
  )
}

const CloseButton = ({ onClose }: { onClose: () => void }) => (
  <button type="button" className="btn px-2" aria-label="Back to the board" onClick={onClose}>
    <X size={16} aria-hidden />
  </button>
)

const hvacWords: Record<(typeof hvacKinds)[number], string> = {
  airConditioning: 'Air conditioning',
  heatPump: 'Heat pump',
  electricHeatLessThanFourUnits: 'Electric heat, under four units',
  electricHeatFourOrMoreUnits: 'Electric heat, four units or more',
  thermalStorage: 'Thermal storage',
}

/** The service's demand, part by part, with the few facts it needs besides the survey. */
export function DemandFields() {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const { demand } = job
  const set = (patch: Partial<typeof demand>) => commit({ kind: 'survey.set', patch: { demand: { ...demand, ...patch } } })
  const va = worlds[job.region].demandMethod === 'floor-area'
  return (
    <Section title="Demand of the service">
      {va && (
        <FieldGrid>
          <AreaField label="Floor area" optional value={demand.floorAreaM2} onCommit={(floorAreaM2) => set({ floorAreaM2 })} />
          <NumberField
            label="Kitchen circuits"
            whole
            max={50}
            value={demand.smallApplianceCircuits}
            onCommit={(v) => set({ smallApplianceCircuits: v ?? 0 })}
          />
          <NumberField
            label="Laundry circuits"
            whole
            max={20}
            value={demand.laundryCircuits}
            onCommit={(v) => set({ laundryCircuits: v ?? 0 })}
          />
          <SelectField
            label="Heating or cooling"
            value={demand.hvacKind ?? 'none'}
            options={[{ value: 'none', label: 'None' }, ...hvacKinds.map((k) => ({ value: k, label: hvacWords[k] }))]}
            onCommit={(v) => set({ hvacKind: v === 'none' ? null : v })}
          />
          {demand.hvacKind && <NumberField label="Its load" unit="VA" value={demand.hvacVa} onCommit={(v) => set({ hvacVa: v ?? 0 })} />}
        </FieldGrid>
      )}
      <div className="mt-2">
        <FieldGrid>
          <NumberField
            label="Highest current recorded"
            unit="A"
            optional
            value={demand.recordedA}
            placeholder="not recorded"
            max={2000}
            onCommit={(recordedA) => set({ recordedA })}
          />
        </FieldGrid>
        {demand.recordedA !== null && (
          <p className="mt-1 text-[0.9rem] text-ink-2">
            {va
              ? 'Over a year, or over 30 days with heating or cooling in use: it counts a quarter more, in place of the sums (220.87).'
              : 'Over weeks that hold the busiest use of the place, in place of the sums; what is added counts whole.'}
          </p>
        )}
      </div>
      <div className="mt-2">
        <DemandTable />
      </div>
    </Section>
  )
}

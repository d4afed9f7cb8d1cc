'use client'
import { Trash2 } from 'lucide-react'
import type { Box, DeviceAt } from '@/core/build/box'
import { tabsOf } from '@/core/wired/check'
import { boxTerminal, type ConnectorId, connector, connectorsFor } from '@/core/catalogue/connectors'
import { devicesFor } from '@/core/catalogue/devices'
import { type BenchRecord, tailEndName, terminalName } from '@/core/job/bench'
import { type CoreCount } from '@/core/region/colours'
import { worlds } from '@/core/region/worlds'
import { colourName, deviceWords, jointName } from '@/core/build/words'
import { sentence } from '@/core/job/part'
import { uncapitalised } from '@/core/base/format'
import { CheckField, SelectField } from '@/ui/fields'
import { TorqueField } from '../fields/measure-fields'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob } from '../sync/context'
import type { Bench } from './use-bench'

/** The first free name of a kind: d2, j3, t1. */
const freeName = (bench: BenchRecord, letter: string): string => {
  const taken = new Set([...bench.devices, ...bench.connectors, ...bench.tails].map((x) => x.id))
  for (let i = 1; ; i++) if (!taken.has(`${letter}${i}`)) return `${letter}${i}`
}
/** A box without one of its devices, connectors or tails, and what was on it. */
function withoutThing({ bench, devices }: Box, id: string): BenchRecord {
  const d = devices.find((x) => x.id === id)
  const places = new Set(d ? d.kind.terminals.map((t) => terminalName(id, t.id)) : [id])
  const tails = new Set([tailEndName(id, 'a'), tailEndName(id, 'b')])
  return {
    ...bench,
    ends: bench.ends.filter((e) => !places.has(e.to) && !tails.has(e.end)),
    devices: bench.devices.filter((x) => x.id !== id),
    connectors: bench.connectors.filter((x) => x.id !== id),
    tails: bench.tails.filter((x) => x.id !== id),
  }
}

interface Shown {
  readonly bench: Bench
  readonly box: Box
}

/** What is in the box: devices, connectors, tails, and how many cores its cables have. */
export function BoxContents({ bench, box }: Shown) {
  const b = box.bench
  const remove = (id: string) => bench.take(withoutThing(box, id))
  return (
    <Section title="In this box">
      <ul>
        {box.devices.map((d) => (
          <DeviceFields key={d.id} device={d} bench={bench} box={box} />
        ))}
        {b.connectors.map((c) => (
          <ThingRow
            key={c.id}
            words={
              connector(c.kind).ofBox ? connector(c.kind).name : `${sentence(jointName(box, c))}: ${uncapitalised(connector(c.kind).name)}`
            }
            name={jointName(box, c)}
            onRemove={() => remove(c.id)}
          />
        ))}
        {b.tails.map((t) => (
          <ThingRow
            key={t.id}
            words={`Pigtail, ${colourName(t.colour)}`}
            name={`${colourName(t.colour)} pigtail`}
            onRemove={() => remove(t.id)}
          />
        ))}
      </ul>
      <div className="mt-2">
        <FieldGrid>
          <PutIn bench={bench} box={box} />
          <CoresOfCables box={box} />
        </FieldGrid>
      </div>
      <div className="mt-2 flex flex-wrap gap-2">
        {!box.usual && (
          <button type="button" className="btn" onClick={bench.drop}>
            Use standard wiring
          </button>
        )}
        <button type="button" className="btn" onClick={() => bench.take({ ...b, ends: [], tails: [], connectors: [] })}>
          Disconnect every conductor
        </button>
      </div>
    </Section>
  )
}

function ThingRow({ words, name, onRemove }: { words: string; name: string; onRemove: () => void }) {
  return (
    <li className="flex items-center gap-2 border-b border-rule">
      <span className="min-w-0 flex-1 py-1">{words}</span>
      <button type="button" className="btn border-transparent" aria-label={`Remove ${name}`} onClick={onRemove}>
        <Trash2 size={16} aria-hidden />
      </button>
    </li>
  )
}

/** A device with what is read off it: its torque, its tabs, and how one with numbers was found to join. */
function DeviceFields({ device: d, bench, box }: Shown & { device: DeviceAt }) {
  type Recorded = BenchRecord['devices'][number]
  const change = (to: (was: Recorded) => Recorded) =>
    bench.take({ ...box.bench, devices: box.bench.devices.map((y) => (y.id === d.id ? to(y) : y)) })
  return (
    <li className="border-b border-rule">
      <div className="flex items-center gap-2">
        <span className="min-w-0 flex-1 py-1 font-bold">{deviceWords(box, d)}</span>
        <button
          type="button"
          className="btn border-transparent"
          aria-label={`Remove ${deviceWords(box, d)}`}
          onClick={() => bench.take(withoutThing(box, d.id))}
        >
          <Trash2 size={16} aria-hidden />
        </button>
      </div>
      <TorqueField
        label="Torque marked on it"
        value={d.torqueNm ?? null}
        max={100}
        onCommit={(nm) => change(({ torqueNm: _, ...rest }) => (nm ? { ...rest, torqueNm: nm } : rest))}
      />
      {d.kind.inside.map(
        (x) =>
          x.kind === 'numbered' && (
            <FieldGrid key="numbered">
              <SelectField
                wide
                label="Closed, by the continuity tester, it joins"
                value={d.pairing === undefined ? '' : String(d.pairing)}
                placeholder="not tested yet"
                options={x.ways.map((w, i) => ({ value: String(i), label: w.map((p) => p.join(' with ')).join(', and ') }))}
                onCommit={(v) => change((y) => ({ ...y, pairing: Number(v) }))}
              />
            </FieldGrid>
          ),
      )}
      {tabsOf(d).map((t) => (
        <CheckField
          key={t.id}
          label={`The ${t.name} is broken out`}
          value={d.broken.includes(t.id)}
          onCommit={(on) => change((y) => ({ ...y, broken: on ? [...y.broken, t.id] : y.broken.filter((x) => x !== t.id) }))}
        />
      ))}
    </li>
  )
}

/** What may be put into the box besides. */
function PutIn({ bench, box }: Shown) {
  const region = useJob((s) => s.job.region)
  const b = box.bench
  const tailColours = [...new Set(box.cables.flatMap((k) => k.ends.map((e) => e.conductor.remark ?? e.conductor.colour)))]
  return (
    <>
      <SelectField
        wide
        label="Put a device in"
        value=""
        options={devicesFor(region).map((d) => ({ value: d.id, label: d.name }))}
        onCommit={(kind) => bench.take({ ...b, devices: [...b.devices, { id: freeName(b, 'd'), kind, broken: [] }] })}
      />
      <SelectField<ConnectorId>
        label="Add a connector"
        value=""
        options={[...connectorsFor(region), boxTerminal(region)].map((c) => ({ value: c.id, label: c.name }))}
        onCommit={(kind) => bench.take({ ...b, connectors: [...b.connectors, { id: freeName(b, 'j'), kind }] })}
      />
      <SelectField
        label="Add a pigtail"
        value=""
        options={tailColours.map((c) => ({ value: c, label: colourName(c) }))}
        onCommit={(colour) => bench.take({ ...b, tails: [...b.tails, { id: freeName(b, 't'), colour }] })}
      />
    </>
  )
}

/** How many cores each cable has that is recorded. */
function CoresOfCables({ box }: { box: Box }) {
  const { protectiveVerb } = worlds[useJob((s) => s.job.region)].words
  const commit = useJob((s) => s.commit)
  return box.cables.map(
    ({ id, side, to, ends, recorded }) =>
      recorded && (
        <SelectField<CoreCount>
          key={id}
          wide
          label={`Cores of the cable ${side === 'feed' ? 'from' : 'to'} ${to}`}
          value={ends.length > 3 ? 'three' : 'two'}
          options={[
            { value: 'two', label: `two and ${protectiveVerb}` },
            { value: 'three', label: `three and ${protectiveVerb}` },
          ]}
          onCommit={(cores) => commit({ kind: 'cable.set', id: recorded.id, patch: { cores } })}
        />
      ),
  )
}

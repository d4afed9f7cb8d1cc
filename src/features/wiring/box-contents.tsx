'use client'
import { Trash2 } from 'lucide-react'
import type { Box } from '@/core/bench/box'
import { tabsOf } from '@/core/bench/check'
import { type ConnectorId, connector, connectorsFor } from '@/core/catalogue/connectors'
import { devicesFor } from '@/core/catalogue/devices'
import { type BenchRecord, tailEndName, terminalName } from '@/core/job/bench'
import { type CoreCount } from '@/core/region/colours'
import { worlds } from '@/core/region/worlds'
import { colourName } from '@/core/wiring/plan'
import { CheckField, SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob } from '../job/context'
import type { Bench } from './use-bench'

/** The first free name of a kind: d2, j3, t1. */
const freeName = (bench: BenchRecord, letter: string): string => {
  const taken = new Set([...bench.devices, ...bench.connectors, ...bench.tails].map((x) => x.id))
  for (let i = 1; ; i++) if (!taken.has(`${letter}${i}`)) return `${letter}${i}`
}
/** A box without what was at places that are gone from it. */
function without(bench: BenchRecord, gone: (to: string) => boolean, ends: (end: string) => boolean = () => false): BenchRecord {
  return { ...bench, ends: bench.ends.filter((e) => !gone(e.to) && !ends(e.end)) }
}

/** What stands in the box: devices, connectors, tails, and how many cores its cables have. */
export function BoxContents({ bench, box }: { bench: Bench; box: Box }) {
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  const b = box.bench
  const remove = (id: string) => {
    const d = box.devices.find((x) => x.id === id)
    const places = new Set(d ? d.kind.terminals.map((t) => terminalName(id, t.id)) : [id])
    const tails = new Set([tailEndName(id, 'a'), tailEndName(id, 'b')])
    const left = without(
      b,
      (to) => places.has(to),
      (end) => tails.has(end),
    )
    bench.take({
      ...left,
      devices: left.devices.filter((x) => x.id !== id),
      connectors: left.connectors.filter((x) => x.id !== id),
      tails: left.tails.filter((x) => x.id !== id),
    })
  }
  const tab = (id: string, name: string, broken: boolean) =>
    bench.take({
      ...b,
      devices: b.devices.map((d) =>
        d.id === id ? { ...d, broken: broken ? [...d.broken, name] : d.broken.filter((x) => x !== name) } : d,
      ),
    })
  const tailColours = [...new Set(box.cables.flatMap((k) => k.ends.map((e) => e.conductor.remark ?? e.conductor.colour)))]
  const row = (id: string, words: string, name: string) => (
    <li key={id} className="flex items-center gap-2 border-b border-rule">
      <span className="min-w-0 flex-1 py-1">{words}</span>
      <button type="button" className="btn border-transparent" aria-label={`Take ${name} out`} onClick={() => remove(id)}>
        <Trash2 size={16} aria-hidden />
      </button>
    </li>
  )
  return (
    <Section title="In this box">
      <ul>
        {box.devices.map((d) => (
          <li key={d.id} className="border-b border-rule">
            <div className="flex items-center gap-2">
              <span className="min-w-0 flex-1 py-1 font-bold">{d.kind.name}</span>
              <button type="button" className="btn border-transparent" aria-label={`Take ${d.kind.name} out`} onClick={() => remove(d.id)}>
                <Trash2 size={16} aria-hidden />
              </button>
            </div>
            <NumberField
              label="Torque marked on it"
              unit="N·m"
              value={d.torqueNm ?? null}
              max={100}
              onCommit={(nm) =>
                bench.take({
                  ...b,
                  devices: b.devices.map((y) => {
                    if (y.id !== d.id) return y
                    const { torqueNm: _, ...rest } = y
                    return nm ? { ...rest, torqueNm: nm } : rest
                  }),
                })
              }
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
                      onCommit={(v) =>
                        bench.take({ ...b, devices: b.devices.map((y) => (y.id === d.id ? { ...y, pairing: Number(v) } : y)) })
                      }
                    />
                  </FieldGrid>
                ),
            )}
            {tabsOf(d).map((t) => (
              <CheckField
                key={t.id}
                label={`The ${t.name} is broken out`}
                value={d.broken.includes(t.id)}
                onCommit={(on) => tab(d.id, t.id, on)}
              />
            ))}
          </li>
        ))}
        {b.connectors.map((c, i) => row(c.id, `${i + 1}. ${connector(c.kind).name}`, `connector ${i + 1}`))}
        {b.tails.map((t) => row(t.id, `Tail, ${colourName(t.colour)}`, `the ${colourName(t.colour)} tail`))}
      </ul>
      <div className="mt-2">
        <FieldGrid>
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
            options={connectorsFor(region).map((c) => ({ value: c.id, label: c.name }))}
            onCommit={(kind) => bench.take({ ...b, connectors: [...b.connectors, { id: freeName(b, 'j'), kind }] })}
          />
          <SelectField
            label="Cut a tail"
            value=""
            options={tailColours.map((c) => ({ value: c, label: colourName(c) }))}
            onCommit={(colour) => bench.take({ ...b, tails: [...b.tails, { id: freeName(b, 't'), colour }] })}
          />
          {box.cables.flatMap((k) => {
            const cable = k.recorded
            return cable === null
              ? []
              : [
                  <SelectField<CoreCount>
                    key={k.id}
                    wide
                    label={`Cores of the cable ${k.side === 'feed' ? 'from' : 'to'} ${k.to}`}
                    value={k.ends.length > 3 ? 'three' : 'two'}
                    options={[
                      { value: 'two', label: `two and ${worlds[region].words.protectiveVerb}` },
                      { value: 'three', label: `three and ${worlds[region].words.protectiveVerb}` },
                    ]}
                    onCommit={(cores) => commit({ kind: 'cable.set', id: cable.id, patch: { cores } })}
                  />,
                ]
          })}
        </FieldGrid>
      </div>
      <div className="mt-2 flex flex-wrap gap-2">
        {!box.usual && (
          <button type="button" className="btn" onClick={bench.drop}>
            Wire it the usual way
          </button>
        )}
        <button type="button" className="btn" onClick={() => bench.take({ ...b, ends: [], tails: [], connectors: [] })}>
          Take every conductor off
        </button>
      </div>
    </Section>
  )
}

'use client'
import { useState } from 'react'
import { asDesigned, type Difference, type Role, type Wiring } from '@/core/meters/as-wired'
import {
  conductorsAt,
  type Instrument,
  instrumentIds,
  instruments,
  type Probe,
  probePlaces,
  type Seen,
  shownOn,
} from '@/core/meters/instruments'
import { roleWords } from '@/core/faults/mistakes'
import { CheckField, ChoiceField, SelectField } from '@/ui/fields'
import { FieldGrid, Section } from '@/ui/panel'

interface Taken {
  readonly n: number
  readonly where: string
  readonly instrument: string
  readonly seen: Seen
}
const MOST_TAKEN = 12

/** Instruments as they behave in the hand, on the wiring as designed or with a fault in it. Nothing is recorded. */
export function InHand({ wiring: w, difference, shut }: { wiring: Wiring; difference: Difference | null; shut: boolean }) {
  const places = probePlaces(w)
  const [instrument, setInstrument] = useState<Instrument>('two-pole')
  const [a, setA] = useState<Probe>({ place: w.places[0]!.id, role: 'line' })
  const [b, setB] = useState<Probe>({
    place: w.places[0]!.id,
    role: conductorsAt(w, w.places[0]!.id).includes('neutral') ? 'neutral' : 'pe',
  })
  const [closed, setClosed] = useState(false)
  const [lifted, setLifted] = useState(false)
  const [load, setLoad] = useState<'own' | 'none'>('none')
  const [taken, setTaken] = useState<readonly Taken[]>([])
  const { probes, dead, name } = instruments[instrument]
  const say = (p: Probe, whole: boolean) => `${places.find((x) => x.id === p.place)?.name ?? ''}${whole ? `, ${roleWords(w, p.role)}` : ''}`
  const measure = () => {
    const seen = shownOn(w, difference ?? asDesigned, instrument, a, b, { closed, neutralLifted: lifted && dead, linked: [], load })
    const where = probes === 'two' ? `${say(a, true)} to ${say(b, true)}` : say(a, probes === 'one')
    setTaken([{ n: (taken[0]?.n ?? 0) + 1, where, instrument: name, seen }, ...taken].slice(0, MOST_TAKEN))
    // What tripped is off until somebody switches it on again.
    if (seen.trips.length > 0) setClosed(false)
  }
  const probe = (label: string, p: Probe, set: (p: Probe) => void, whole: boolean) => (
    <>
      <SelectField
        label={label}
        value={p.place}
        options={places.map((x) => ({ value: x.id, label: x.name }))}
        onCommit={(place) => set({ place, role: conductorsAt(w, place).includes(p.role) ? p.role : conductorsAt(w, place)[0]! })}
      />
      {whole && (
        <SelectField<Role>
          label="on its"
          value={p.role}
          options={conductorsAt(w, p.place).map((r) => ({ value: r, label: roleWords(w, r) }))}
          onCommit={(role) => set({ ...p, role })}
        />
      )}
    </>
  )
  const [last] = taken
  return (
    <Section title="Instruments, to try">
      <p className="mb-2 text-ink-2">
        They show what they would show on {difference ? 'the wiring with the fault in it' : 'this circuit as it is designed'}, with what
        each is known to get wrong. Nothing of it goes into the record.
      </p>
      <FieldGrid>
        <SelectField<Instrument>
          wide
          label="Instrument"
          value={instrument}
          options={instrumentIds.map((i) => ({ value: i, label: instruments[i].name }))}
          onCommit={setInstrument}
        />
        {probe(probes === 'two' ? 'One probe at' : 'At', a, setA, probes !== 'place')}
        {probes === 'two' && probe('The other at', b, setB, true)}
        <ChoiceField
          label="The breaker is"
          value={closed ? 'on' : 'off'}
          options={[
            { value: 'off', label: 'Off' },
            { value: 'on', label: 'On' },
          ]}
          onCommit={(v) => setClosed(v === 'on')}
        />
        <ChoiceField
          label="What is plugged in"
          value={load}
          options={[
            { value: 'none', label: 'Nothing' },
            { value: 'own', label: 'Its loads' },
          ]}
          onCommit={setLoad}
        />
        {w.roles.includes('neutral') && dead && (
          <CheckField label="Its neutral is lifted at the board" value={lifted} onCommit={setLifted} />
        )}
      </FieldGrid>
      {closed && shut && <p className="mt-2">In earnest nothing is switched on before the dead tests are made and hold.</p>}
      <button type="button" className="btn btn-ink mt-2" onClick={measure}>
        See what it shows
      </button>
      {last && (
        <div role="status" className="mt-3 border-2 border-ink p-2">
          <p className="text-[1.4rem] font-bold">{last.seen.shown}</p>
          <p className="text-ink-2">
            {last.instrument}: {last.where}
          </p>
          {last.seen.note && <p className="mt-1">{last.seen.note}</p>}
        </div>
      )}
      {taken.length > 1 && (
        <ol className="mt-2" aria-label="Seen before">
          {taken.slice(1).map((t) => (
            <li key={t.n} className="flex gap-2 border-b border-rule py-1">
              <b className="min-w-24">{t.seen.shown}</b>
              <span className="min-w-0 text-ink-2">
                {t.instrument}: {t.where}
              </span>
            </li>
          ))}
        </ol>
      )}
    </Section>
  )
}

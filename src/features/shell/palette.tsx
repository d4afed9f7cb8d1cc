'use client'
import { Command } from 'cmdk'
import { useRouter } from 'next/navigation'
import { read } from '@/core/installation/installation'
import { stepInWords } from '@/core/evaluate/edit-stages'
import { sentence } from '@/core/job/part'
import { leadOf, leadOfOpen } from '@/features/leads/leads'
import { papers } from '@/core/evaluate/papers'
import { inRegion } from '@/core/region/spelling'
import { stages } from '@/core/report/stages'
import { useSettings } from '@/ui/settings'
import { useJob } from '../sync/context'
import { useFollow } from '../fields/findings'

/** Every word typed is somewhere in the name; of several the shortest name is meant. */
const likeness = (value: string, typed: string): number => {
  const name = value.toLowerCase()
  const words = typed.toLowerCase().split(/\s+/)
  return words.every((w) => name.includes(w)) ? 1 / (1 + name.length) : 0
}

/** Every command by name: type a few letters, Enter. */
export function Palette({ onClose, onOpen }: { onClose: () => void; onOpen: (what: 'history' | 'shortcuts' | 'phone' | 'scan') => void }) {
  const router = useRouter()
  const id = useJob((s) => s.id)
  const job = useJob((s) => s.job)
  const undone = useJob((s) => s.saved.undo)
  const redone = useJob((s) => s.saved.redo)
  const undo = useJob((s) => s.undo)
  const redo = useJob((s) => s.redo)
  const commit = useJob((s) => s.commit)
  const pickCircuit = useJob((s) => s.pickCircuit)
  const { settings, change } = useSettings()
  const report = useJob((s) => s.report)
  const follow = useFollow()
  const of = (circuit: string | null) => (circuit ? [report.byCircuit.get(circuit)?.circuit.name] : [])
  /** What is wrong and what is open, each leading to where it is answered; the first word says what it is. */
  const toAnswer = report.stages.flatMap((s) => [
    ...s.findings.map((f) => ({
      name: [sentence(f.severity), ...of(f.circuit), f.message].filter(Boolean).join(': '),
      act: () => follow(leadOf(f, s.id), f.circuit),
    })),
    ...s.open.map((o) => ({
      name: ['Open', ...of(o.circuit), o.ask].filter(Boolean).join(': '),
      act: () => follow(leadOfOpen(o), o.circuit),
    })),
  ])
  const get = (path: string) => () => window.open(`/api/jobs/${id}/${path}`, '_blank')
  const groups: { heading: string; items: { name: string; act: () => void }[] }[] = [
    {
      heading: 'Go to',
      items: [
        ...stages.flatMap((s) => [
          { name: s.name, act: () => router.push(`/jobs/${id}/${s.id}`) },
          ...s.sheets.map((t) => ({
            name: `${s.name}: ${inRegion(job.region, t.name)}`,
            act: () => router.push(`/jobs/${id}/${s.id}?sheet=${t.id}`),
          })),
        ]),
        { name: 'All jobs', act: () => router.push('/') },
        { name: 'Scan a label', act: () => onOpen('scan') },
        ...job.circuits.map((c) => ({ name: `Circuit: ${c.name}`, act: () => pickCircuit(c.id) })),
      ],
    },
    { heading: 'Wrong or open', items: toAnswer },
    {
      heading: 'Points',
      // One without a name is called as its circuit, which stands above.
      items: read(job)
        .points.filter((p) => p.name !== '')
        .map((p) => ({
          name: `Point: ${[p.room, p.name].filter(Boolean).join(', ')}`,
          act: () => follow({ stage: 'survey', sheet: 'points', fields: [`Load at ${p.name}`] }, null),
        })),
    },
    {
      heading: 'Change',
      items: [
        ...(undone ? [{ name: stepInWords('Undo', undone), act: () => void undo() }] : []),
        ...(redone ? [{ name: stepInWords('Redo', redone), act: () => void redo() }] : []),
        {
          name: 'Add a circuit',
          act: () => commit({ kind: 'circuit.add', id: crypto.randomUUID(), name: `Circuit ${job.circuits.length + 1}` }),
        },
      ],
    },
    {
      heading: 'Paper and files',
      items: [
        ...papers.map((p) => ({ name: inRegion(job.region, p.name), act: get(p.file) })),
        { name: 'Print this page', act: () => window.print() },
      ],
    },
    {
      heading: 'Show',
      items: [
        { name: 'History', act: () => onOpen('history') },
        { name: 'Open it on the phone', act: () => onOpen('phone') },
        { name: 'Keyboard shortcuts', act: () => onOpen('shortcuts') },
        ...(['world', 'metric', 'imperial'] as const)
          .filter((u) => u !== settings.units)
          .map((u) => ({ name: u === 'world' ? 'Units as used where the job is' : `Units: ${u}`, act: () => change({ units: u }) })),
        ...(['system', 'light', 'dark'] as const)
          .filter((t) => t !== settings.theme)
          .map((t) => ({
            name: t === 'system' ? 'Light or dark as the system says' : `${t === 'light' ? 'Light' : 'Dark'} page`,
            act: () => change({ theme: t }),
          })),
      ],
    },
  ]
  return (
    <Command.Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      label="Find a command"
      filter={likeness}
      overlayClassName="fixed inset-0 z-30 bg-ink/20"
      contentClassName="fixed top-[12vh] left-1/2 z-40 w-[min(34rem,94vw)] -translate-x-1/2 border-2 border-ink bg-sheet"
    >
      <Command.Input
        placeholder="What do you want to do?"
        className="w-full border-b border-rule-2 bg-sheet px-4 py-3 text-lg outline-none"
      />
      <Command.List className="max-h-[50vh] overflow-y-auto p-2">
        <Command.Empty className="p-3 text-ink-2">No command by that name.</Command.Empty>
        {groups.map((g) => (
          <Command.Group
            key={g.heading}
            heading={g.heading}
            className={
              '[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[0.8rem] ' +
              '[&_[cmdk-group-heading]]:text-ink-2'
            }
          >
            {g.items.map((item, i) => (
              <Command.Item
                key={`${i} ${item.name}`}
                value={`${g.heading} ${item.name} ${i}`}
                onSelect={() => {
                  onClose()
                  item.act()
                }}
                className="cursor-pointer truncate px-2 py-1.5 data-[selected=true]:bg-ink data-[selected=true]:text-sheet"
              >
                {item.name}
              </Command.Item>
            ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command.Dialog>
  )
}

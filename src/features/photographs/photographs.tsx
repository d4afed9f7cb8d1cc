'use client'
import { Say } from '@/ui/worded'
import clsx from 'clsx'
import { Camera, Columns2, RotateCcw, X } from 'lucide-react'
import { Dialog } from 'radix-ui'
import { type ChangeEvent, type ReactNode, useId, useState } from 'react'
import { type Photographed, subjectWords } from '@/core/verify/photograph'
import { ChoiceField, TextField } from '@/ui/fields'
import { Section } from '@/ui/panel'
import { formatWhen } from '@/ui/when'
import { useJob } from '../sync/context'
import { MarkIt } from './mark-it'
import { type Draft, MarkedPicture } from './marked-picture'
import { pictureOf } from './picture'
import { rowOf } from './row-of'
import { type SeenPhotograph, usePhotographs } from './use-photographs'

/** What was photographed of one thing, and a way to photograph it. */
export function Photographs({ of, hint, title = 'Photographs' }: { of: Photographed; hint: string; title?: string }) {
  const all = usePhotographs(of)
  return (
    <Section title={title}>
      <Thumbs photographs={all} empty={hint} />
      <Take of={of} />
    </Section>
  )
}

/** Everything that was photographed, by what it shows. */
export function AllPhotographs() {
  const job = useJob((s) => s.job)
  const all = usePhotographs(null)
  const subjects = [...new Map(all.map((p) => [`${p.of.kind} ${p.of.id}`, p.of])).values()]
  return (
    <Section title="Photographs">
      {subjects.length === 0 && (
        <p className="text-ink-2">
          <Say>No photographs yet. Take them at the board, the point or the circuit they show.</Say>
        </p>
      )}
      {subjects.map((of) => (
        <div key={`${of.kind} ${of.id}`} className="mt-2">
          <h3 className="text-[0.95rem]">{subjectWords(job, of)}</h3>
          <Thumbs photographs={all.filter((p) => p.of.kind === of.kind && p.of.id === of.id)} empty="" />
        </div>
      ))}
    </Section>
  )
}

const momentNames = { before: 'Before', after: 'After' } as const
const called = (p: SeenPhotograph): string => `Photograph: ${p.words || 'nothing said of it yet'}`

function Thumbs({ photographs, empty }: { photographs: readonly SeenPhotograph[]; empty: string }) {
  const [open, setOpen] = useState<string | null>(null)
  const [away, setAway] = useState(false)
  const kept = photographs.filter((p) => !p.out)
  const put = photographs.filter((p) => p.out)
  const seen = photographs.find((p) => p.photograph === open)
  const [beside, setBeside] = useState(false)
  const [before, after] = (['before', 'after'] as const).map((m) => kept.findLast((p) => p.moment === m))
  return (
    <>
      {kept.length === 0 && empty && <p className="text-ink-2">{empty}</p>}
      {kept.length > 0 && (
        <ul className="flex flex-wrap gap-2 py-1">
          {kept.map((p) => (
            <li key={p.photograph} className="w-28">
              <button
                type="button"
                className="block w-full border border-rule-2 hover:border-ink"
                aria-label={called(p)}
                onClick={() => setOpen(p.photograph)}
              >
                <img src={p.src} alt="" loading="lazy" className="h-20 w-full object-cover" />
              </button>
              {(p.moment || p.marks.length > 0) && (
                <p className="text-[0.85rem] leading-tight text-ink-2">
                  {[
                    p.moment && momentNames[p.moment],
                    p.marks.length > 0 && `${p.marks.length === 1 ? '1 mark' : `${p.marks.length} marks`}`,
                  ]
                    .filter(Boolean)
                    .join(', ')}
                </p>
              )}
              <p className="text-[0.85rem] leading-tight break-words">{p.words || <span className="text-ink-2">say what it shows</span>}</p>
              {p.waiting && <p className="text-[0.85rem] text-ink-2">waits here</p>}
            </li>
          ))}
        </ul>
      )}
      {before && after && (
        <button type="button" className="btn no-print mt-1" onClick={() => setBeside(true)}>
          <Columns2 size={15} aria-hidden /> Before and after
        </button>
      )}
      {before && after && beside && <Beside before={before} after={after} onClose={() => setBeside(false)} />}
      {put.length > 0 && (
        <button type="button" className="btn no-print mt-1" aria-expanded={away} onClick={() => setAway(!away)}>
          {put.length} put away
        </button>
      )}
      {away && (
        <ul className="mt-1 flex flex-col gap-1">
          {put.map((p) => (
            <PutAway key={p.photograph} photograph={p} />
          ))}
        </ul>
      )}
      {seen && <Whole key={seen.photograph} photograph={seen} onClose={() => setOpen(null)} />}
    </>
  )
}

function PutAway({ photograph: p }: { photograph: SeenPhotograph }) {
  const add = useJob((s) => s.addPhotograph)
  return (
    <li className="flex items-center gap-2">
      <span className="min-w-0 flex-1 truncate text-ink-2">{p.words || formatWhen(p.at)}</span>
      <button type="button" className="btn" onClick={() => add({ ...rowOf(p), out: false })}>
        <RotateCcw size={15} aria-hidden /> Bring back
      </button>
    </li>
  )
}

function PictureDialog({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  return (
    <Dialog.Root open onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="no-print fixed inset-0 z-30 bg-ink/60" />
        <Dialog.Content
          aria-describedby={undefined}
          className={clsx(
            'no-print fixed inset-2 z-40 flex flex-col gap-2 overflow-y-auto border border-rule-2 bg-sheet p-3',
            'md:inset-x-[5vw] md:inset-y-6',
          )}
        >
          <div className="flex items-center gap-2">
            <Dialog.Title className="min-w-0 flex-1 truncate text-lg">{title}</Dialog.Title>
            <Dialog.Close className="btn px-2" aria-label="Close">
              <X size={18} aria-hidden />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

/** One photograph, as large as there is room for. */
function Whole({ photograph: p, onClose }: { photograph: SeenPhotograph; onClose: () => void }) {
  const add = useJob((s) => s.addPhotograph)
  const job = useJob((s) => s.job)
  const taken = [formatWhen(p.at), p.by].filter(Boolean).join(', ')
  const [draft, setDraft] = useState<Draft | null>(null)
  return (
    <PictureDialog title={subjectWords(job, p.of)} onClose={onClose}>
      <MarkedPicture photograph={p} draft={draft} onDraft={setDraft} className="min-h-[17rem] w-full flex-1 bg-wash max-md:shrink-0" />
      <MarkIt photograph={p} draft={draft} onDraft={setDraft} />
      <div className={clsx('flex flex-wrap items-end gap-3', draft && 'max-md:hidden')}>
        <div className="min-w-52 flex-1">
          <TextField
            label="What it shows"
            value={p.words}
            onCommit={(words) => words !== p.words && add({ ...rowOf(p), words: words.slice(0, 300) })}
          />
        </div>
        <ChoiceField
          wide={false}
          label="Taken"
          value={p.moment ?? 'none'}
          options={[
            { value: 'none', label: 'Not recorded' },
            { value: 'before', label: 'Before the work' },
            { value: 'after', label: 'After the work' },
          ]}
          onCommit={(moment) => add({ ...rowOf(p), moment: moment === 'none' ? null : moment })}
        />
        <p className="text-[0.9rem] text-ink-2">{taken}</p>
        <button type="button" className="btn" title="It can be brought back" onClick={() => (add({ ...rowOf(p), out: true }), onClose())}>
          Put away
        </button>
      </div>
    </PictureDialog>
  )
}

/** The last of before and the last of after, beside each other. */
function Beside({ before, after, onClose }: { before: SeenPhotograph; after: SeenPhotograph; onClose: () => void }) {
  return (
    <PictureDialog title="Before and after" onClose={onClose}>
      <div className="grid min-h-0 flex-1 gap-3 md:grid-cols-2">
        {[before, after].map((p) => (
          <figure key={p.photograph} className="flex min-h-0 flex-col">
            <figcaption>
              <b>{momentNames[p.moment!]}</b> {[p.words, formatWhen(p.at)].filter(Boolean).join(', ')}
            </figcaption>
            <MarkedPicture photograph={p} className="min-h-[15rem] w-full flex-1 bg-wash" />
          </figure>
        ))}
      </div>
    </PictureDialog>
  )
}

/** Takes a photograph with the device, or one that it has; smaller, upright, and without saying where it was taken. */
function Take({ of }: { of: Photographed }) {
  const add = useJob((s) => s.addPhotograph)
  const input = useId()
  const [left, setLeft] = useState(0)
  const [problem, setProblem] = useState('')
  const take = async ({ target }: ChangeEvent<HTMLInputElement>) => {
    const files = [...(target.files ?? [])]
    target.value = ''
    setProblem('')
    setLeft(files.length)
    for (const file of files) {
      try {
        const data = await pictureOf(file)
        const id = crypto.randomUUID()
        add({ id, photograph: id, of, words: '', out: false, data })
      } catch (e) {
        setProblem((e as Error).message)
      }
      setLeft((n) => n - 1)
    }
  }
  return (
    <div className="no-print mt-1">
      <input
        id={input}
        type="file"
        accept="image/*"
        multiple
        className="peer sr-only"
        onChange={(e) => void take(e)}
        aria-describedby={problem ? `${input}-p` : undefined}
      />
      <label htmlFor={input} className="btn inline-flex cursor-pointer peer-focus-visible:outline-2">
        <Camera size={16} aria-hidden /> {left > 0 ? `${left} to make ready…` : 'Take or choose a photograph'}
      </label>
      {problem && (
        <p id={`${input}-p`} role="alert" className="mt-1 font-bold text-error">
          {problem}
        </p>
      )}
    </div>
  )
}

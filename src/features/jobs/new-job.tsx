'use client'
import { useId, useState } from 'react'
import { type RegionId, regionIds } from '@/core/region/types'
import { api, ApiError } from '@/ui/api'
import { applianceKinds } from '@/core/catalogue/appliances'
import { CheckField, ChoiceField, SelectField } from '@/ui/fields'
import { applianceOptions } from '../fields/appliance-options'
import { worldNames } from '@/core/region/names'

const random32 = (): number => crypto.getRandomValues(new Uint32Array(1))[0]!

const nameOfKind = (region: RegionId, id: string): string => applianceKinds(region).find((k) => k.id === id)!.name

/** Where, title, place: all that a job needs to begin. Made in place, on the page. A practice building is a job like any other. */
export function NewJob({ onDone }: { onDone: (path: string | null) => void }) {
  const [practice, setPractice] = useState(false)
  const [misleading, setMisleading] = useState(true)
  const [region, setRegion] = useState<RegionId | null>(null)
  const [title, setTitle] = useState('')
  const [place, setPlace] = useState('')
  const [appliance, setAppliance] = useState('')
  const kinds = region && !practice ? applianceOptions(region) : []
  /** What it powers names a job that is given no other name. */
  const named = title.trim() || (kinds.some((k) => k.value === appliance) ? nameOfKind(region!, appliance) : '')
  const [problems, setProblems] = useState<{ region?: string; title?: string; place?: string; other?: string }>({})
  const titleId = useId()
  const placeId = useId()
  const make = async () => {
    const found = {
      ...(region ? {} : { region: 'Where is it? Its rules follow from that.' }),
      ...(named || practice ? {} : { title: 'A job needs a title.' }),
    }
    setProblems(found)
    if (Object.keys(found).length) return
    try {
      const { id } = await api<{ id: string }>('POST', '/api/jobs', {
        region,
        title: named || 'Practice survey',
        place,
        ...(practice ? { practice: { seed: random32(), misleading } } : {}),
        ...(kinds.some((k) => k.value === appliance) ? { appliance } : {}),
      })
      onDone(`/jobs/${id}/${practice ? 'survey' : 'brief'}`)
    } catch (e) {
      if (!(e instanceof ApiError)) throw e
      setProblems(e.path === 'title' || e.path === 'place' ? { [e.path]: e.message } : { other: e.message })
    }
  }
  return (
    <form
      aria-label="New job"
      className="mb-4 border-2 border-ink bg-sheet p-4"
      onSubmit={(e) => {
        e.preventDefault()
        void make()
      }}
      onKeyDown={(e) => e.key === 'Escape' && onDone(null)}
    >
      <ChoiceField
        label="Where"
        value={region}
        options={regionIds.map((r) => ({ value: r, label: `${worldNames[r].name}, ${worldNames[r].nominal}, ${worldNames[r].rules}` }))}
        onCommit={setRegion}
      />
      {kinds.length > 0 && (
        <div className="mt-3 max-w-xl">
          <SelectField
            label="What is to be powered, if that is known; the nameplate corrects it later"
            value={appliance}
            placeholder="Not known yet, or several things"
            options={kinds}
            onCommit={setAppliance}
          />
        </div>
      )}
      {problems.region && (
        <p role="alert" className="font-bold text-error">
          {problems.region}
        </p>
      )}
      <div className="mt-3 grid gap-3 md:grid-cols-[1fr_1fr_auto]">
        <div>
          <label htmlFor={titleId} className="mb-0.5 block text-[0.9rem] text-ink-2">
            Title
          </label>
          <input
            id={titleId}
            autoFocus
            className="field"
            maxLength={120}
            value={title}
            onChange={(e) => setTitle(e.target.value)}
            aria-invalid={Boolean(problems.title)}
            placeholder={named || 'Power for the…'}
          />
          {problems.title && (
            <p role="alert" className="font-bold text-error">
              {problems.title}
            </p>
          )}
        </div>
        <div>
          <label htmlFor={placeId} className="mb-0.5 block text-[0.9rem] text-ink-2">
            Place
          </label>
          <input
            id={placeId}
            className="field"
            maxLength={200}
            value={place}
            onChange={(e) => setPlace(e.target.value)}
            aria-invalid={Boolean(problems.place)}
          />
        </div>
        <div className="flex items-end gap-2">
          <button type="submit" className="btn btn-ink">
            Make it
          </button>
          <button type="button" className="btn" onClick={() => onDone(null)}>
            Not now
          </button>
        </div>
      </div>
      <div className="mt-2 flex flex-wrap gap-x-6">
        <CheckField label="Practice: a building with hidden wiring, to survey and trace" value={practice} onCommit={setPractice} />
        {practice && <CheckField label="Its non-contact detector may mislead" value={misleading} onCommit={setMisleading} />}
      </div>
      {(problems.other ?? problems.place) && (
        <p role="alert" className="mt-2 font-bold text-error">
          {problems.other ?? problems.place}
        </p>
      )}
    </form>
  )
}

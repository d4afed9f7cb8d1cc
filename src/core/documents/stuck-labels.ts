import { type Finding, listed } from '../base/finding'
import type { Installation } from '../installation/installation'
import { MOST_TEXT, type StuckLabel } from '../job/label'
import { worlds } from '../region/worlds'
import type { Label } from './labels'

/** The place of a label, which stays whatever is written on it. */
export const labelKey = ({ place, at, cable }: Pick<Label, 'place' | 'at' | 'cable'>): string => [place, at, cable ?? ''].join(' ')
/** The text of a label as it is kept. Give one that was made without a date: its date is no news. */
export const labelText = ({ lines }: Pick<Label, 'lines'>): string => lines.join('\n').slice(0, MOST_TEXT)

export interface LabelStates {
  /** By the place of each label: whether what is stuck there is still true. */
  readonly of: ReadonlyMap<string, 'stuck' | 'untrue'>
  /** Labels that were stuck on what is no longer there. */
  readonly gone: readonly StuckLabel[]
}

/** The labels that were stuck against what they should say now. @param labels of the whole job, made without a date */
export function labelStates({ labels: record }: Pick<Installation['record'], 'labels'>, labels: readonly Label[]): LabelStates {
  const now = new Map(labels.map((l) => [labelKey(l), labelText(l)]))
  const stuck = record?.stuck ?? []
  return {
    of: new Map(stuck.flatMap((s) => (now.has(s.key) ? [[s.key, now.get(s.key) === s.text ? 'stuck' : 'untrue'] as const] : []))),
    gone: stuck.filter((s) => !now.has(s.key)),
  }
}

/** Labels that say what is no longer so. */
export function labelFindings(job: Installation, labels: readonly Label[]): readonly Finding[] {
  const { of, gone } = labelStates(job.record, labels)
  const untrue = labels.filter((l) => of.get(labelKey(l)) === 'untrue')
  const clause = worlds[job.region].cites.labels
  return [
    ...(untrue.length
      ? [
          {
            rule: 'label-untrue',
            severity: 'warning' as const,
            clause,
            message:
              `${untrue.length === 1 ? 'A label no longer says' : `${untrue.length} labels no longer say`} what is there: ` +
              `${listed(
                untrue.map((l) => l.where),
                4,
              )}. Print ${untrue.length === 1 ? 'it' : 'them'} again.`,
          },
        ]
      : []),
    ...(gone.length
      ? [
          {
            rule: 'label-of-nothing',
            severity: 'warning' as const,
            clause,
            message:
              `${gone.length === 1 ? 'A label is' : `${gone.length} labels are`} stuck on what is no longer in the job: take ` +
              `${gone.length === 1 ? 'it' : 'them'} off.`,
          },
        ]
      : []),
  ]
}

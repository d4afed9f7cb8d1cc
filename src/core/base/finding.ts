import { z } from 'zod'

/** `unknown` is a verdict of its own: a fact the rule needs is missing, so it neither passes nor fails. */
export const severities = ['error', 'warning', 'unknown', 'note'] as const
export type Severity = (typeof severities)[number]

/** What a rule has to say: its stable name, the clause it rests on, and in plain words what would put it right. */
export const findingSchema = z.strictObject({
  rule: z.string(),
  severity: z.enum(severities),
  clause: z.string(),
  message: z.string(),
})
export type Finding = z.infer<typeof findingSchema> & {
  /** Facts it lacks, by name, so that it can lead to where they are given. */
  readonly asks?: readonly string[]
  /** What of the record it is about, as `way:ID`, where that is not its circuit: what it leads to is picked. */
  readonly about?: string
}

/** Names in a sentence; of a long list the first few, and how many more. */
export function listed(names: readonly string[], most = 6, between = ', '): string {
  return names.length > most + 1 ? `${names.slice(0, most).join(between)} and ${names.length - most} others` : names.join(between)
}

const conjunction = new Intl.ListFormat('en-GB', { type: 'conjunction' })
/** "a, b and c". */
export const listedWords = (names: readonly string[]): string => conjunction.format(names)

/** The gravest severity present, or null for an empty list. */
export function worstSeverity(findings: readonly { severity: Severity }[]): Severity | null {
  return severities.find((s) => findings.some((f) => f.severity === s)) ?? null
}

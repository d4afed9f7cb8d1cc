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
export type Finding = z.infer<typeof findingSchema>

/** The gravest severity present, or null for an empty list. */
export function worstSeverity(findings: readonly { severity: Severity }[]): Severity | null {
  return severities.find((s) => findings.some((f) => f.severity === s)) ?? null
}

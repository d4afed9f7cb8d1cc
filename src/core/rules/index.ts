import type { Finding } from '../finding'
import { boardRules } from './board'
import { circuitRules } from './circuit'
import { type CircuitFacts, type Rule, runRule } from './engine'
import { oldWorkRules } from './old-work'
import { protectionRules } from './protection'

export const rules: readonly Rule[] = [...circuitRules, ...protectionRules, ...boardRules, ...oldWorkRules]

/** Everything the rules have to say about one design. */
export const circuitFindings = (facts: CircuitFacts): Finding[] => rules.map((rule) => runRule(rule, facts)).filter((f) => f !== null)

import { writeFileSync } from 'node:fs'
import { rulesDocument } from '../src/core/rules/list'

writeFileSync('docs/rules.md', rulesDocument())

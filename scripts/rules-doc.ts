import { writeFileSync } from 'node:fs'
import { glossary } from '../src/core/documents/glossary'
import { rulesDocument } from '../src/core/rules/list'

writeFileSync('docs/rules.md', rulesDocument())
writeFileSync('docs/glossary.md', glossary())

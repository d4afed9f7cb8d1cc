import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { Validator } from '@seriousme/openapi-schema-validator'
import { describe, expect, it } from 'vitest'
import { calculators } from '../core/contract/calculators'
import { openApi, operations } from './openapi'

/** Methods and addresses of the routes as they lie in their folders. */
const served = readdirSync('src/app/api', { recursive: true, encoding: 'utf8' })
  .filter((f) => f.endsWith('route.ts'))
  .flatMap((f) => {
    const at = `/api/${path.dirname(f).replaceAll('[', '{').replaceAll(']', '}')}`
    const methods = [
      ...readFileSync(path.join('src/app/api', f), 'utf8').matchAll(/export (?:const|function) (GET|POST|DELETE|PUT|PATCH)\b/g),
    ]
    return methods.map(([, method]) => `${method!.toLowerCase()} ${at}`)
  })
  .toSorted()

describe('the HTTP interface as a document', () => {
  it('names every route that is served, and no other', () => {
    const named = operations.map((o) => `${o.method} ${o.path}`)
    expect(served.length).toBeGreaterThan(30)
    expect([...named, 'post /api/calc/{name}'].toSorted()).toEqual(served)
    expect(new Set(named).size).toBe(named.length)
  })

  it('is valid OpenAPI 3.1, with every calculator', async () => {
    const document = JSON.parse(JSON.stringify(openApi())) as ReturnType<typeof openApi>
    const { valid, errors } = await new Validator().validate(document)
    expect(errors).toBeUndefined()
    expect(valid).toBe(true)
    expect(Object.keys(document.paths).filter((p) => p.startsWith('/api/calc/')).length).toBe(Object.keys(calculators).length)
  })

  it('says what an edit carries', () => {
    const text = JSON.stringify(openApi().paths['/api/jobs/{id}/edits'])
    for (const kind of ['route.take', 'issue.sign', 'signal-cable.add', 'due.add']) expect(text).toContain(`"${kind}"`)
  })

  it('is of the version of the package', () => {
    const { version } = JSON.parse(readFileSync('package.json', 'utf8')) as { version: string }
    expect(openApi().info.version).toBe(version)
  })
})

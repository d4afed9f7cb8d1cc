import { z } from 'zod'
import { calculators, calculatorSchemas } from '@/core/contract/calculators'
import { jobFileSchema } from '@/core/job/schema'
import { settingsSchema } from '@/core/workday/settings'
import { requests } from './requests'

/*
 * The HTTP interface for other programs, as OpenAPI 3.1: made from the schemas that the routes check requests by. Every route has its line
 * in `operations`; a test holds the two against each other.
 */

type Method = 'get' | 'post' | 'delete'
interface Operation {
  readonly path: string
  readonly method: Method
  readonly summary: string
  readonly body?: z.ZodType
  /** What the answer is where it is no JSON. */
  readonly answer?: string
  /** Query parameters by name, with what they say. */
  readonly query?: Readonly<Record<string, string>>
}

const at = (path: string, method: Method, summary: string, more: Partial<Operation> = {}): Operation => ({ path, method, summary, ...more })
const held = { held: 'how many rows the device holds already' }

export const operations: readonly Operation[] = [
  at('/api/jobs', 'post', 'Makes a job; answers its id', { body: requests.newJob }),
  at('/api/jobs/import', 'post', 'Makes a job from a Job file, or from an archive sent as application/zip', { body: jobFileSchema }),
  at('/api/jobs/demo', 'post', 'Makes an example, or brings it back', { body: requests.demo }),
  at('/api/jobs/{id}', 'get', 'A job as it is now, with its readings and its revision'),
  at('/api/jobs/{id}', 'delete', 'Deletes a job, so that it can be brought back'),
  at('/api/jobs/{id}/undelete', 'post', 'Brings a deleted job back'),
  at('/api/jobs/{id}/duplicate', 'post', 'Copies a job without what was done there; answers the id of the copy'),
  at('/api/jobs/{id}/edits', 'post', 'Makes an edit on the revision it names; answers patches. 409: others changed the same meanwhile', {
    body: requests.edit,
  }),
  at('/api/jobs/{id}/undo', 'post', 'Takes the last edit back', { body: requests.step }),
  at('/api/jobs/{id}/redo', 'post', 'Makes it again', { body: requests.step }),
  at('/api/jobs/{id}/restore', 'post', 'Goes back to an earlier revision, as a change of its own', { body: requests.restore }),
  at('/api/jobs/{id}/history', 'get', 'Every change: when, by whom, in words'),
  at('/api/jobs/{id}/changes', 'get', 'What a device lacks that holds a revision', { query: { after: 'the revision it holds', ...held } }),
  at('/api/jobs/{id}/events', 'get', 'A line at each change, as server-sent events', { answer: 'text/event-stream' }),
  at('/api/jobs/{id}/readings', 'post', 'Adds a reading; one is never changed, a correction names the one it corrects', {
    body: requests.reading,
  }),
  at('/api/jobs/{id}/photographs', 'get', 'Rows of photographs', { query: held }),
  at('/api/jobs/{id}/photographs', 'post', 'Adds a photograph, its words or a mark', { body: requests.photograph }),
  at('/api/jobs/{id}/photographs/{photograph}', 'get', 'The picture', { answer: 'image/jpeg' }),
  at('/api/jobs/{id}/same-place', 'get', 'Other jobs at the same place'),
  at('/api/jobs/{id}/older', 'get', 'A job of an older version that could not be brought up, as a job file of that version'),
  at('/api/jobs/{id}/{paper}', 'get', 'A paper or file of the job by its name: record.pdf, pack.pdf, needed.csv, file.json', {
    answer: 'application/octet-stream',
    query: { circuit: 'of one circuit alone, where the paper has that' },
  }),
  at('/api/papers/{ask}', 'get', 'How far a paper is that is being made'),
  at('/api/stock', 'get', 'What is in the van'),
  at('/api/stock', 'post', 'Counts, takes or brings what is in the van', { body: requests.stock }),
  at('/api/due', 'get', 'What is due again over all jobs', { answer: 'text/calendar' }),
  at('/api/work-log', 'get', 'What tasks took, over the jobs worked on last'),
  at('/api/settings', 'post', 'Changes settings', { body: settingsSchema.partial() }),
  at('/api/backup', 'get', 'How old the newest backup is; with file, that backup', { query: { file: 'the name of a backup' } }),
  at('/api/backup', 'post', 'Makes a backup now'),
  at('/api/instruments', 'get', 'The instruments named at the start'),
  at('/api/instruments', 'post', 'What an instrument shows, a line of JSON each time', {
    body: requests.instrument,
    answer: 'application/x-ndjson',
  }),
  at('/api/sign-in', 'post', 'Signs a person in, where the server has a passphrase', { body: requests.signIn }),
  at('/api/sign-in', 'delete', 'Signs out'),
  at('/api/reach', 'get', 'Addresses at which this server is reached from a phone'),
]

const jsonSchema = (schema: z.ZodType) => {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' })
  return rest
}
const content = (type: string, schema: unknown) => ({ [type]: { schema } })
const problem = {
  description: 'Refused, with the path of what is wrong',
  content: content('application/json', { $ref: '#/components/schemas/Problem' }),
}

function described({ path, method, summary, body, answer = 'application/json', query = {} }: Operation) {
  const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: 'string' } }))
  const inQuery = Object.entries(query).map(([name, description]) => ({
    name,
    in: 'query',
    required: false,
    description,
    schema: { type: 'string' },
  }))
  return {
    summary,
    operationId: `${method} ${path}`,
    ...(inPath.length + inQuery.length ? { parameters: [...inPath, ...inQuery] } : {}),
    ...(body ? { requestBody: { required: true, content: content('application/json', jsonSchema(body)) } } : {}),
    responses: {
      200: { description: 'Done', content: content(answer, answer === 'application/json' ? {} : { type: 'string' }) },
      default: problem,
    },
  }
}

/** Each calculator by its name, with the schemas of its input and output. */
const calculatorPaths = () =>
  Object.entries(calculators).map(([name, calculator]) => {
    const { input, output } = calculatorSchemas(calculator)
    const bare = (schema: unknown) => {
      const { $schema: _, ...rest } = schema as Record<string, unknown>
      return rest
    }
    const operation = {
      summary: `The calculator ${name}`,
      operationId: `calculate ${name}`,
      requestBody: { required: true, content: content('application/json', bare(input)) },
      responses: { 200: { description: 'What follows', content: content('application/json', bare(output)) }, default: problem },
    }
    return [`/api/calc/${name}`, { post: operation }] as const
  })

/** The whole interface as one document. */
export function openApi() {
  const paths = new Map<string, Record<string, unknown>>()
  for (const o of operations) paths.set(o.path, { ...paths.get(o.path), [o.method]: described(o) })
  return {
    openapi: '3.1.0',
    info: {
      title: 'Synthema',
      version: '0.2.0',
      description:
        'Figures, rules and records for work on electrical circuits. Beyond this machine a request carries the cookie of a signed-in ' +
        'person; one that changes something is refused from another site.',
    },
    paths: Object.fromEntries([...paths, ...calculatorPaths()]),
    components: {
      schemas: {
        Problem: {
          type: 'object',
          required: ['error'],
          properties: {
            error: {
              type: 'object',
              required: ['path', 'message'],
              properties: { path: { type: 'string' }, message: { type: 'string' } },
            },
          },
        },
      },
    },
  }
}

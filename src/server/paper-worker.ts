import { makePaper, type Wanted } from './papers'

/** Makes one paper, off the thread that answers requests. */
export default async function make({ name, wanted }: { name: string; wanted: Wanted }) {
  const made = await makePaper(name, wanted)
  return made && { ...made, body: typeof made.body === 'string' ? made.body : new Uint8Array(made.body) }
}

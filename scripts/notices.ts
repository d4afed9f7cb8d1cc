// npm run notices: writes THIRD-PARTY-NOTICES.md, the packages that ship with the application and their licences.
import { writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { init, type ModuleInfos } from 'license-checker-rseidelsohn'

/** Built for one machine or another: which of them are installed depends on where. */
const ofThisMachine = /-(linux|darwin|win32|android|freebsd|wasm32)\b|^@emnapi\/|^@tybys\/|^@napi-rs\/wasm/

export interface Notice {
  readonly name: string
  readonly version: string
  readonly licence: string
  readonly source: string
}

/** What is installed for running the application, by name. */
export async function notices(): Promise<Notice[]> {
  const found = await new Promise<ModuleInfos>((resolve, reject) =>
    init({ start: '.', production: true, excludePrivatePackages: true }, (problem, all) => (problem ? reject(problem) : resolve(all))),
  )
  return Object.entries(found)
    .map(([key, { licenses, repository }]) => {
      const at = key.lastIndexOf('@')
      return {
        name: key.slice(0, at),
        version: key.slice(at + 1),
        licence: Array.isArray(licenses) ? licenses.join(' OR ') : (licenses ?? 'unknown'),
        source: typeof repository === 'string' ? repository : '',
      }
    })
    .filter(({ name }) => name !== 'synthema')
    .toSorted((a, b) => a.name.localeCompare(b.name) || a.version.localeCompare(b.version))
}

export const document = (list: readonly Notice[]): string => `# Third-party notices

Packages that ship with the application, made by \`npm run notices\` from what the lock file installs. Each is its authors' own, under the
licence named; the text of each licence stands in its package.

| package | version | licence | source |
| --- | --- | --- | --- |
${list
  .filter(({ name }) => !ofThisMachine.test(name))
  .map((n) => `| ${n.name} | ${n.version} | ${n.licence.replaceAll('|', '/')} | ${n.source} |`)
  .join('\n')}
`

/** Licences that ask something of the whole work, and not only of their own files or their own library, with no other to choose. */
export const reaching = (licence: string): boolean =>
  licence
    .replace(/[()]/g, '')
    .split(/ OR /i)
    .every((one) => /\b(A?GPL|SSPL|EUPL|OSL|CPAL|CC-BY-(NC|SA))/i.test(one.replace(/LGPL[-\w.]*/gi, '')))

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) writeFileSync('THIRD-PARTY-NOTICES.md', document(await notices()))

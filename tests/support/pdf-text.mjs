import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'

/*
 * In a thread of its own: the reader puts its own ways in place of what lists and texts of the language do, slower ones, for all that runs
 * beside it.
 */

/** @param {Uint8Array} body */
export default async function textOf(body) {
  const file = await getDocument({ data: new Uint8Array(body), verbosity: 0 }).promise
  const pages = []
  const boxes = []
  for (let n = 1; n <= file.numPages; n++) {
    const page = await file.getPage(n)
    const { width, height } = page.getViewport({ scale: 1 })
    pages.push({ width, height })
    for (const item of (await page.getTextContent()).items) {
      if (!('str' in item) || item.str.trim() === '') continue
      const [a, b, , , x, y] = item.transform
      boxes.push({ text: item.str, page: n, x, y: height - y, width: item.width, size: Math.hypot(a, b) })
    }
  }
  const { info } = await file.getMetadata()
  const outline = ((await file.getOutline()) ?? []).map((o) => o.title)
  await file.destroy()
  return { pages, boxes, title: info.Title ?? '', language: info.Language ?? '', outline }
}

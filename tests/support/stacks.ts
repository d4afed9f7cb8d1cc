/*
 * Each act of a test asks where it was called from, and the runner then looks up every frame of its stack in the source maps: a sixth of
 * all that it did. Only files of ours have maps.
 */
const mapped = Error.prepareStackTrace
const asWritten = new Map<string, string>()

const FRAME = '\n    at '
function placed(frame: NodeJS.CallSite): string {
  const file = frame.getFileName()
  if (!mapped || !file || file.startsWith('node:') || file.includes('/node_modules/')) return FRAME + String(frame).replace(/^async /, '')
  const key = `${file}:${frame.getLineNumber()}:${frame.getColumnNumber()}:${frame.getFunctionName()}`
  let text = asWritten.get(key)
  if (text === undefined) {
    const whole = String(mapped(new Error(), [frame]))
    text = whole.slice(whole.lastIndexOf(FRAME))
    asWritten.set(key, text)
  }
  return text
}
Error.prepareStackTrace = (error, frames) => `${error.name || 'Error'}: ${error.message}${frames.map(placed).join('')}`

import { describe, expect, it } from 'vitest'
import { imageSize } from 'image-size'
import { jpeg } from '../../tests/support/jpeg'
import { pictureAlone } from './jpeg'

const segment = (marker: number, body: readonly number[]): number[] => [
  0xff,
  marker,
  (body.length + 2) >> 8,
  (body.length + 2) & 0xff,
  ...body,
]
const letters = (s: string): number[] => [...s].map((c) => c.charCodeAt(0))
/** EXIF that says how the picture is turned, and where it was taken, as a phone writes it. */
const exif = (orientation: number, little = false): number[] => {
  const two = (n: number) => (little ? [n & 255, n >> 8] : [n >> 8, n & 255])
  const four = (n: number) => (little ? [n & 255, n >> 8, 0, 0] : [0, 0, n >> 8, n & 255])
  const entry = (tag: number, kind: number, count: number, value: readonly number[]) => [
    ...two(tag),
    ...two(kind),
    ...four(count),
    ...value,
  ]
  const turned = entry(0x0112, 3, 1, [...two(orientation), 0, 0])
  const gps = entry(0x8825, 4, 1, four(38))
  return [
    ...letters('Exif\0\0'),
    ...letters(little ? 'II' : 'MM'),
    ...two(42),
    ...four(8),
    ...two(2),
    ...turned,
    ...gps,
    ...four(0),
    ...letters('51N 0W here'),
  ]
}
function camera(...segments: readonly number[][]): Uint8Array {
  const plain = jpeg(40, 30)
  return Uint8Array.from([...plain.subarray(0, 2), ...segments.flat(), ...plain.subarray(2)])
}
const text = (data: Uint8Array): string => Buffer.from(data).toString('latin1')

describe('a photograph as it is kept', () => {
  it('says nothing of where it was taken, on what, or by whom, and is the same picture', () => {
    const sent = camera(segment(0xe1, exif(1)), segment(0xed, letters('Photoshop by A')), segment(0xfe, letters('a comment')))
    const kept = pictureAlone(sent)
    for (const said of ['51N', 'Exif', 'Photoshop', 'comment']) expect(text(kept)).not.toContain(said)
    expect(kept).toEqual(new Uint8Array(jpeg(40, 30)))
  })
  it('is turned as it was, whichever way its camera writes numbers', () => {
    for (const little of [false, true])
      for (const orientation of [3, 6, 8]) {
        const kept = pictureAlone(camera(segment(0xe1, exif(orientation, little))))
        expect(imageSize(kept).orientation).toBe(orientation)
        expect(text(kept)).not.toContain('51N')
      }
    expect(imageSize(pictureAlone(camera(segment(0xe1, exif(1))))).orientation).toBeUndefined()
  })
  it('is the same each time, and once it is bare it stays as it is', () => {
    const once = pictureAlone(camera(segment(0xe1, exif(6))))
    expect(pictureAlone(once)).toEqual(once)
  })
  it('keeps its colours, and what is no JPEG or is cut off is left alone', () => {
    const icc = camera(segment(0xe2, letters('ICC_PROFILE\0 colours')))
    expect(pictureAlone(icc)).toEqual(icc)
    const other = Uint8Array.from([1, 2, 3])
    expect(pictureAlone(other)).toEqual(other)
    const cut = Uint8Array.from([0xff, 0xd8, 0xff, 0xe1, 0xff, 0xff, 1])
    expect(pictureAlone(cut)).toEqual(cut)
  })
})

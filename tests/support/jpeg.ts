/** A JPEG of one grey, of any size: its head says the size, its body is as short as a body can be. */
export function jpeg(width: number, height: number): Uint8Array {
  const head = [0xff, 0xd8, 0xff, 0xe0, 0, 16, 0x4a, 0x46, 0x49, 0x46, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0]
  const frame = [0xff, 0xc0, 0, 11, 8, height >> 8, height & 255, width >> 8, width & 255, 1, 1, 0x11, 0]
  return new Uint8Array([...head, ...frame, 0xff, 0xd9])
}

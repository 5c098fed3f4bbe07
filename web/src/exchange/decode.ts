/** How a file was written, as its bytes tell. */
export interface Decoded {
  readonly text: string
  readonly encoding: 'UTF-8' | 'UTF-16' | 'Windows-1252'
}

const begins = (bytes: Uint8Array, ...mark: readonly number[]): boolean =>
  mark.every((byte, index) => bytes[index] === byte)

/**
 * Reads the bytes of a file as text: by its byte order mark, else as UTF-8 where it is that throughout, else as the code page of
 * western spreadsheets.
 */
export function decode(bytes: Uint8Array): Decoded {
  if (begins(bytes, 0xff, 0xfe))
    return { text: new TextDecoder('utf-16le').decode(bytes), encoding: 'UTF-16' }
  if (begins(bytes, 0xfe, 0xff))
    return { text: new TextDecoder('utf-16be').decode(bytes), encoding: 'UTF-16' }
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'UTF-8' }
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'Windows-1252' }
  }
}

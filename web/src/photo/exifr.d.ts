declare module 'exifr/dist/lite.esm.mjs' {
  export function parse(file: Blob, options: { reviveValues: boolean; gps: boolean }): Promise<unknown>
}

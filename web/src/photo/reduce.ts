/** A picture in hand: upright, reduced, as pixels and as a JPEG with nothing but these. */
export interface Reduced {
  pixels: ImageData
  jpeg: Blob
}

/** In how many pixels a picture is measured and kept; core/photo has the same. */
export const usualPixels = 2_000_000

/** A picture larger than this is not one of a lawn. */
export const mostPixels = 100_000_000

/** The size in which a picture is kept. */
export function sizeFor(width: number, height: number): [number, number] {
  const by = Math.min(1, Math.sqrt(usualPixels / (width * height)))
  return [Math.max(1, Math.floor(width * by)), Math.max(1, Math.floor(height * by))]
}

/** Decodes a picture as it is looked at, whichever way the camera was held, and reduces it. */
export async function reduced(picture: Blob | ImageBitmap): Promise<Reduced> {
  const whole = picture instanceof Blob ? await createImageBitmap(picture, { imageOrientation: 'from-image' }) : picture
  if (whole.width * whole.height > mostPixels) throw new Error('The picture is larger than 100 million pixels.')
  const [width, height] = sizeFor(whole.width, whole.height)
  const canvas = new OffscreenCanvas(width, height)
  const pen = canvas.getContext('2d', { willReadFrequently: true })
  if (!pen) throw new Error('This browser cannot draw pictures in the background.')
  pen.imageSmoothingQuality = 'high'
  pen.drawImage(whole, 0, 0, width, height)
  whole.close()
  return { pixels: pen.getImageData(0, 0, width, height), jpeg: await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 }) }
}

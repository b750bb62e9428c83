import sharp from 'sharp'

/** A JPEG of up to so many pixels is held while its code is made. */
const pixelsHeld = 24e6

/**
 * A PNG as a JPEG or a TIFF with its resolution written into it. The PNG is read row by row, so that large sheets take
 * no more memory than small ones; a large JPEG goes without a code of its own, for which all of it would be held (12
 * bytes a pixel). A JPEG has no transparency; what is transparent becomes white.
 */
export async function fromPng(
  png: Uint8Array,
  { format, dpi, quality }: { format: 'jpeg' | 'tiff'; dpi: number; quality: number },
): Promise<Uint8Array> {
  const image = sharp(png, { limitInputPixels: false, sequentialRead: true }).withMetadata({ density: dpi })
  if (format === 'jpeg') {
    const { width, height } = await sharp(png, { limitInputPixels: false }).metadata()
    return image
      .flatten({ background: '#ffffff' })
      .jpeg({ quality, chromaSubsampling: '4:4:4', optimiseCoding: width * height <= pixelsHeld })
      .toBuffer()
  }
  // Pixels to the millimetre, as the library asks for them.
  const resolution = dpi / 25.4
  return image
    .tiff({
      compression: 'deflate',
      predictor: 'horizontal',
      xres: resolution,
      yres: resolution,
      resolutionUnit: 'inch',
    })
    .toBuffer()
}

import { ImportError } from '../import-error'

/** A picture by itself lies nowhere. @throws ImportError always, saying what belongs to it */
export function readLonePicture(_: Uint8Array, fileName: string): never {
  throw new ImportError(
    `${fileName} does not say where on the ground it lies. Bring it in together with its world file (.pgw, .jgw or .wld), and its .prj where there is one.`,
  )
}

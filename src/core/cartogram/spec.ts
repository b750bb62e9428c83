/** What stands for an area in a cartogram. */
export const cartogramForms = [
  'own shapes',
  'continuous',
  'circles',
  'squares',
  'hexagon tiles',
  'square tiles',
] as const
export type CartogramForm = (typeof cartogramForms)[number]

/** Whether every area gets a tile of the same size. */
export const isTiled = (form: CartogramForm): boolean => form.endsWith('tiles')

/** Whether areas are still known by their outlines. */
export const hasOwnShapes = (form: CartogramForm): boolean => form === 'own shapes' || form === 'continuous'

/** More areas than this have no tiles: to find the best place for each takes time with the cube of their number. */
export const mostTiles = 1000

/** What stands for an area in a cartogram. */
export const cartogramForms = ['own shapes', 'circles', 'squares', 'hexagon tiles', 'square tiles'] as const
export type CartogramForm = (typeof cartogramForms)[number]

/** Whether every area gets a tile of the same size. */
export const isTiled = (form: CartogramForm): boolean => form.endsWith('tiles')

/** More areas than this have no tiles: to find the best place for each takes time with the cube of their number. */
export const mostTiles = 1000

import type { KindData, SentencePart } from '../kind'
import type { ReliefSettings } from './spec'

const winds = ['north', 'north-east', 'east', 'south-east', 'south', 'south-west', 'west', 'north-west']

/** “north-west”: where the light comes from, if the top of the page is north. */
export const windOf = (azimuthDeg: number): string => winds[Math.round(azimuthDeg / 45) % 8]

/** “Model relief by four lights about the north-west, tinted by height, in mist.” */
export function reliefSentence({ shading, tints, mist }: ReliefSettings, { name }: KindData): SentencePart[] {
  const from = shading && windOf(shading.azimuthDeg)
  const light =
    shading && (shading.lights === 'one' ? `light from the ${from}` : `four lights about the ${from}`)
  const ways = [
    ...(light ? [`by ${light}`] : []),
    ...(tints ? [tints.stepped ? 'tinted by height in steps' : 'tinted by height'] : []),
    ...(mist ? ['with mist below'] : []),
  ]
  return [
    { text: 'Model ' },
    { text: name.toLowerCase(), control: 'dataset' },
    { text: ways.length ? ` ${ways.join(', ')}.` : ' without light.' },
  ]
}

import { describe, expect, it } from 'vitest'
import { group, type Scene } from '@/core/scene/scene'
import { textNode, type TextStyle } from '@/core/scene/text'
import { fontBookOf, readFontFile } from '../font-files'
import { writeSvg } from './write'

const font = { family: 'source-sans-3', weight: 400, italic: false } as const
const fonts = fontBookOf([font])
const style: TextStyle = { font, sizeMm: 4, letterSpacingMm: 0 }
const ink = '#1a1a1a'

const svgOf = (text: string): string => {
  const scene: Scene = {
    title: `Title ${text}`,
    widthMm: 40,
    heightMm: 20,
    background: '#ffffff',
    author: text,
    description: `Shows ${text}`,
    children: [
      group('layer', [textNode(fonts, text, style, { x: 2, y: 10, colour: ink })], {
        name: `Layer ${text}`,
      }),
    ],
  }
  return writeSvg(scene, { fonts, text: 'embedded', fontBytes: readFontFile })
}

describe('an SVG file', () => {
  it('holds no character that XML forbids, wherever words of others stand in it', () => {
    const svg = svgOf('a\u0000b\u0001c\ufffed\ud800e\u001ff')
    expect(svg).toContain('abcdef')
    expect(svg).not.toMatch(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/)
  })

  it('says in words what is to be seen', () => {
    expect(svgOf('loans & readers')).toContain('<desc>Shows loans &amp; readers</desc>')
  })

  it('keeps markup in words from being markup', () => {
    expect(svgOf('</text><script>alert(1)</script>')).not.toContain('<script>')
  })
})

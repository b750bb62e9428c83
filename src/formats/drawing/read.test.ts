import { describe, expect, it } from 'vitest'
import { walk, type Path } from '@/core/scene/scene'
import { readDrawing } from './read'

const svg = (body: string, head = 'viewBox="0 0 100 50"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${head}>${body}</svg>`
const read = (body: string, head?: string) => readDrawing(svg(body, head), 'drawing.svg')
const paths = (body: string): Path[] =>
  [...walk(read(body).nodes)].filter((node): node is Path => node.type === 'path')

describe('a drawing', () => {
  it('has its space, its shapes and their looks', () => {
    const { box, lost } = read('<rect width="10" height="5"/>')
    expect(box).toEqual({ x: 0, y: 0, width: 100, height: 50 })
    expect(lost).toEqual([])
    expect(read('<rect width="1" height="1"/>', 'width="2in" height="25.4mm"').box).toMatchObject({
      width: 192,
      height: 96,
    })
    const [circle, line] = paths(
      '<g fill="red" stroke="#00f" stroke-width="2"><circle r="5" fill-opacity=".5"/><line x1="0" y1="0" x2="9" y2="9" stroke-dasharray="3 1"/></g>',
    )
    expect(circle.fill).toEqual({ type: 'solid', colour: '#ff000080' })
    expect(circle.strokes[0]).toMatchObject({ colour: '#0000ff', widthMm: 2 })
    expect(line.fill).toBe(null)
    expect(line.strokes[0].dashMm).toEqual([3, 1])
  })

  it('takes looks from style sheets, classes and attributes, the nearest first', () => {
    const body =
      '<style>rect{fill:#111111} .a{fill:#222222} #b{fill:#333333}</style><rect width="1" height="1"/><rect class="a" width="1" height="1"/><rect id="b" class="a" width="1" height="1"/><rect class="a" style="fill:#444444" width="1" height="1"/>'
    expect(paths(body).map(({ fill }) => fill?.type === 'solid' && fill.colour)).toEqual([
      '#111111',
      '#222222',
      '#333333',
      '#444444',
    ])
  })

  it('follows references and gradients within the file', () => {
    const body =
      '<defs><linearGradient id="g"><stop offset="0" stop-color="red"/><stop offset="100%" stop-color="blue" stop-opacity=".5"/></linearGradient><symbol id="s"><rect width="4" height="4" fill="url(#g)"/></symbol></defs><use href="#s" x="10" y="20"/>'
    const { nodes } = read(body)
    expect(nodes[0]).toMatchObject({ type: 'group', transform: [1, 0, 0, 1, 10, 20] })
    const [rect] = paths(body)
    expect(rect.fill).toMatchObject({
      type: 'linear',
      from: [0, 0],
      to: [4, 0],
      stops: [{ colour: '#ff0000' }, { colour: '#0000ff80' }],
    })
  })

  it('says what was left out: scripts, links to elsewhere, texts and pictures', () => {
    const { lost, nodes } = read(
      '<script>alert(1)</script><text>a</text><text>b</text><image href="https://example.test/x.png"/><use href="other.svg#a"/><foreignObject/><rect width="1" height="1" onclick="steal()"/>',
    )
    expect(lost).toEqual([
      'A script was taken out.',
      '2 texts were left out: turn them into outlines first.',
      'A picture within it was left out.',
      'A reference to something outside was left out.',
      'Something that is no drawing was left out.',
    ])
    expect(JSON.stringify(nodes)).not.toMatch(/steal|alert|example/)
  })

  it('comes to an end whatever refers to itself, and refuses what is none', () => {
    expect(paths('<g id="a"><use href="#a"/><rect width="1" height="1"/></g>').length).toBeLessThan(4)
    expect(
      paths(
        '<linearGradient id="x" href="#y"/><linearGradient id="y" href="#x"/><rect width="1" height="1" fill="url(#x)" stroke="red"/>',
      ),
    ).toHaveLength(1)
    for (const [text, words] of [
      ['not xml', 'no SVG drawing'],
      ['<html/>', 'no SVG drawing'],
      [svg(''), 'nothing in drawing.svg'],
      [svg('<rect width="1" height="1"/>', ''), 'neither a size nor a viewBox'],
      [svg('<path d="M 0 0 L nonsense"/>'), 'nothing in drawing.svg'],
      ['<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><rect', 'no SVG drawing'],
    ])
      expect(() => readDrawing(text, 'drawing.svg')).toThrow(words)
  })

  it('keeps clips, opacity and hidden parts as they are', () => {
    const { nodes } = read(
      '<clipPath id="c"><circle r="3"/></clipPath><g clip-path="url(#c)" opacity=".4"><rect width="9" height="9"/></g><rect display="none" width="1" height="1"/><rect visibility="hidden" width="1" height="1"/>',
    )
    expect(nodes).toHaveLength(1)
    expect(nodes[0]).toMatchObject({ type: 'group', opacity: 0.4, clip: { kind: 'curves' } })
  })
})

import { unzipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { archiveName, filesToSend, sorted } from './rasters-together'

const file = (name: string, size = 3): File => new File([new Uint8Array(size).fill(7)], name)
const names = (files: { name: string }[]) => files.map(({ name }) => name)

describe('files of one drop', () => {
  it('are sent one by one, but for pictures of the ground with what lies beside them', async () => {
    expect(names(await filesToSend([file('a.csv'), file('one.tif')]))).toEqual(['a.csv', 'one.tif'])
    const sent = await filesToSend([
      file('a.csv'),
      file('sheet_1.png'),
      file('sheet_1.pgw'),
      file('sheet_2.png'),
    ])
    expect(names(sent)).toEqual(['a.csv', 'sheet.zip'])
    const inside = unzipSync(new Uint8Array(await sent[1].arrayBuffer()))
    expect(Object.keys(inside)).toEqual(['sheet_1.png', 'sheet_1.pgw', 'sheet_2.png'])
    expect([...inside['sheet_2.png']]).toEqual([7, 7, 7])
  })

  it('are left alone where they are too large for an archive, or where no picture is among them', () => {
    const large = [
      { name: 'a.tif', size: 600e6 },
      { name: 'b.tif', size: 600e6 },
    ]
    expect(sorted(large)).toEqual({ alone: large, ofGround: [] })
    const lost = [
      { name: 'a.prj', size: 1 },
      { name: 'b.tfw', size: 1 },
    ]
    expect(sorted(lost).ofGround).toEqual([])
  })

  it('are called by what their names begin with', () => {
    expect(archiveName([file('hills-west.tif'), file('hills-east.tif'), file('hills.prj')])).toBe('hills.zip')
    expect(archiveName([file('a.tif'), file('b.tif')])).toBe('a.zip')
  })
})

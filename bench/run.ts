// Prints ratios against a baseline measured in the same run and fails when a budget is broken.
import { answeringRatios } from './answering'
import { classifyingRatios } from './classifying'
import { countingRatios } from './counting'
import { dotRatios } from './dots'
import { drawingRatios } from './drawing'
import { labelRatios } from './labels'
import { markRatios } from './marks'
import { report } from './measure'
import { planetDrawingRatios, readingRatios } from './planet'
import { openingRatios, sheetRatios } from './sheet'
import { surfaceRatios } from './surfaces'
import { soakRatios } from './soak'

process.exitCode = report([
  ...classifyingRatios(),
  ...countingRatios(),
  ...drawingRatios(),
  ...planetDrawingRatios(),
  ...(await readingRatios()),
  ...markRatios(),
  ...dotRatios(),
  ...surfaceRatios(),
  ...labelRatios(),
  ...sheetRatios(),
  ...openingRatios(),
  ...soakRatios(),
  ...(await answeringRatios()),
])
  ? 0
  : 1

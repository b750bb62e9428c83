// Prints ratios against a baseline measured in the same run and fails when a budget is broken.
import { classifyingRatios } from './classifying'
import { countingRatios } from './counting'
import { drawingRatios } from './drawing'
import { report } from './measure'

process.exitCode = report([...classifyingRatios(), ...countingRatios(), ...drawingRatios()]) ? 0 : 1

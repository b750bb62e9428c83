// Prints ratios against a baseline measured in the same run and fails when a budget is broken.
import { classifyingRatios } from './classifying'
import { drawingRatios } from './drawing'
import { report } from './measure'

process.exitCode = report([...classifyingRatios(), ...drawingRatios()]) ? 0 : 1

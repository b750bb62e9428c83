import { lindmere } from './lindmere/country'
import { isMade, makeWhole } from './whole'

if (!isMade()) await makeWhole(lindmere().ground().relief)

/** The version of the folio's schema. */
export const folioVersion = 14

/**
 * What each version of the folio's schema looks like, in short: a change of the schema changes the print. Whoever
 * changes it raises `folioVersion`, writes the upgrade with a test, and adds the new print here; older builds then
 * refuse the newer folio instead of dropping what they do not know.
 */
export const schemaPrints: Record<number, string> = {
  2: 'bbfe33e1761f97eb',
  3: '5121a22e64b764a7',
  4: 'f29f5fffbaa6bd2e',
  5: '63148c28b9678367',
  6: 'f4a86b6e36fcf802',
  7: '063e38b5dcd276c4',
  8: '3ea99b952cb64ce1',
  9: '424f7d36a632709a',
  10: 'efd7a552ea1ee47d',
  11: '12455bd256f75fa7',
  12: '4d2c302bc3167683',
  13: '5c36140b83836ee0',
  14: 'b60d3ab2698d3291',
}

/** The schema that documents are written by, in short. */
export const documentPrint = schemaPrints[folioVersion]

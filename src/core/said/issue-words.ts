import type { z } from 'zod'

const expectedWords: Record<string, string> = {
  array: 'a list',
  boolean: 'true or false',
  int: 'a whole number',
  null: 'null',
  number: 'a number',
  object: 'an object',
  record: 'an object',
  string: 'text',
  tuple: 'a list of fixed length',
}

function faultOf(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined && /received undefined$/.test(issue.message)
        ? 'a value is missing'
        : `the value should be ${expectedWords[issue.expected] ?? issue.expected}`
    case 'too_small':
      return issue.origin === 'string' || issue.origin === 'array'
        ? `there are fewer than ${issue.minimum}`
        : `the value is below ${issue.minimum}`
    case 'too_big':
      return issue.origin === 'string' || issue.origin === 'array'
        ? `there are more than ${issue.maximum}`
        : `the value is above ${issue.maximum}`
    case 'unrecognized_keys':
      return `${issue.keys.join(', ')} is not known here`
    case 'custom':
      return issue.message
    default:
      return 'the value is none of those that are known'
  }
}

/** What is wrong with a value that does not fit a schema, and where: `at maps › 0 › name, a value is missing`. */
export function issueWords({ issues: [issue] }: z.ZodError): string {
  return `at ${issue.path.map(String).join(' › ') || 'the top'}, ${faultOf(issue)}`
}

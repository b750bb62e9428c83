import { z } from 'zod'

// Pages may not make code from text; schemas are not to try.
z.config({ jitless: true })

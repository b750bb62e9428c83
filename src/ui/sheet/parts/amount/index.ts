import { CircleDashed } from 'lucide-react'
import type { PartFace } from '../face'
import { AmountForm } from './form'

export const amountFace: PartFace<'amount'> = { icon: CircleDashed, Form: AmountForm, needsMap: false }

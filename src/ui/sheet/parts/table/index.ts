import { Table } from 'lucide-react'
import type { PartFace } from '../face'
import { TableForm } from './form'

export const tableFace: PartFace<'table'> = {
  icon: Table,
  Form: TableForm,
  needsMap: false,
}

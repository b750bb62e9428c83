'use client'
import { setNonce as setStyleNonce } from 'get-nonce'
import { setNonce as setPickerNonce } from 'react-colorful'
import '@/workers/no-eval'

/** Hands the nonce of the page to what makes style elements of its own. */
export function StyleNonce({ nonce }: { nonce: string | undefined }) {
  if (nonce && typeof window !== 'undefined') {
    setStyleNonce(nonce)
    setPickerNonce(nonce)
  }
  return null
}

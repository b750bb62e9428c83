'use client'
import { useEffect, useState, type RefObject } from 'react'

/** The size of an element in CSS pixels, kept up to date. Null before it is laid out. */
export function useSize(element: RefObject<HTMLElement | null>): { width: number; height: number } | null {
  const [size, setSize] = useState<{ width: number; height: number } | null>(null)
  useEffect(() => {
    if (!element.current) return
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect
      setSize({ width: Math.round(width), height: Math.round(height) })
    })
    observer.observe(element.current)
    return () => observer.disconnect()
  }, [element])
  return size
}

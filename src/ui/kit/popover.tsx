'use client'
import { Dialog as RadixDialog, Popover as RadixPopover } from 'radix-ui'
import { X } from 'lucide-react'
import { cloneElement, useState, type MouseEventHandler, type ReactElement, type ReactNode } from 'react'
import { IconButton } from './controls'

type Trigger = ReactElement<{
  'aria-haspopup'?: 'dialog'
  'aria-expanded'?: boolean
  'data-state'?: string
  onClick?: MouseEventHandler<HTMLElement>
}>

/**
 * A small picker beside what it changes. Until it is opened for the first time it is its trigger and nothing else:
 * desks have dozens of them, and are drawn anew with every step of a slider.
 */
export function Popover({
  trigger,
  children,
  label,
  align = 'start',
  side = 'bottom',
  className = '',
}: {
  trigger: Trigger
  children: ReactNode | ((close: () => void) => ReactNode)
  label: string
  align?: 'start' | 'center' | 'end'
  side?: 'top' | 'bottom'
  className?: string
}) {
  const [used, setUsed] = useState(false)
  if (!used)
    return cloneElement(trigger, {
      'aria-haspopup': 'dialog',
      'aria-expanded': false,
      'data-state': 'closed',
      onClick: (event) => {
        trigger.props.onClick?.(event)
        setUsed(true)
      },
    })
  return (
    <RadixPopover.Root defaultOpen>
      <RadixPopover.Trigger asChild>{trigger}</RadixPopover.Trigger>
      <RadixPopover.Portal>
        <RadixPopover.Content
          aria-label={label}
          align={align}
          side={side}
          sideOffset={6}
          collisionPadding={8}
          className={`floating z-50 max-h-[min(70vh,var(--radix-popover-content-available-height))] overflow-y-auto p-2 font-sans text-[13px] ${className}`}
        >
          {typeof children === 'function' ? <WithClose>{children}</WithClose> : children}
        </RadixPopover.Content>
      </RadixPopover.Portal>
    </RadixPopover.Root>
  )
}

function WithClose({ children }: { children: (close: () => void) => ReactNode }) {
  let closer: HTMLButtonElement | null = null
  return (
    <>
      {children(() => closer?.click())}
      <RadixPopover.Close
        ref={(element) => void (closer = element)}
        className="hidden"
        aria-hidden
        tabIndex={-1}
      />
    </>
  )
}

const dialogWidths = { narrow: 'w-[460px]', medium: 'w-[620px]', wide: 'w-[min(1140px,94vw)]' }

export function Dialog({
  open,
  onClose,
  title,
  children,
  width = 'narrow',
}: {
  open: boolean
  onClose: () => void
  title: string
  children: ReactNode
  width?: keyof typeof dialogWidths
}) {
  return (
    <RadixDialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-black/30" />
        <RadixDialog.Content
          aria-describedby={undefined}
          className={`floating fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] -translate-x-1/2 flex-col ${dialogWidths[width]}`}
        >
          <div className="flex items-center justify-between border-b border-line px-4 py-2">
            <RadixDialog.Title className="font-serif text-[16px] font-semibold">{title}</RadixDialog.Title>
            <RadixDialog.Close asChild>
              <IconButton label="Close">
                <X size={16} />
              </IconButton>
            </RadixDialog.Close>
          </div>
          <div className="overflow-y-auto p-4">{children}</div>
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  )
}

/** A list of choices inside a popover. */
export function ChoiceList<T extends string>({
  options,
  value,
  onPick,
}: {
  options: { value: T; label: string; note?: string }[]
  value: T | null
  onPick: (value: T) => void
}) {
  return (
    <ul className="flex min-w-52 flex-col">
      {options.map((option) => (
        <li key={option.value}>
          <button
            type="button"
            aria-pressed={option.value === value}
            onClick={() => onPick(option.value)}
            className={`flex w-full items-baseline justify-between gap-4 rounded px-2 py-1 text-left hover:bg-base-200 ${option.value === value ? 'bg-tint font-medium text-primary' : ''}`}
          >
            <span>{option.label}</span>
            {option.note && <span className="text-xs font-normal text-muted">{option.note}</span>}
          </button>
        </li>
      ))}
    </ul>
  )
}

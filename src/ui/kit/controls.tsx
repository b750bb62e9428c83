'use client'
import type { ButtonHTMLAttributes, ReactNode } from 'react'

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & {
  look?: 'plain' | 'primary' | 'danger' | 'quiet'
}

const looks = {
  plain: 'border border-line bg-base-100 hover:border-muted',
  primary: 'border border-primary bg-primary text-primary-content hover:opacity-90',
  danger: 'border border-error text-error bg-base-100 hover:bg-error hover:text-error-content',
  quiet: 'border border-transparent hover:bg-base-200',
}

export function Button({ look = 'plain', className = '', ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`inline-flex h-7 items-center justify-center gap-1.5 rounded px-2.5 text-[13px] font-medium whitespace-nowrap disabled:cursor-not-allowed disabled:opacity-45 ${looks[look]} ${className}`}
      {...rest}
    />
  )
}

/** A button with an icon alone; its label is its name and its tooltip. */
export function IconButton({
  label,
  active = false,
  className = '',
  children,
  ...rest
}: Omit<ButtonProps, 'look'> & { label: string; active?: boolean; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className={`inline-flex size-7 shrink-0 items-center justify-center rounded hover:bg-base-200 disabled:cursor-not-allowed disabled:opacity-35 ${active ? 'bg-tint text-primary' : ''} ${className}`}
      {...rest}
    >
      {children}
    </button>
  )
}

export type Option<T extends string> = { value: T; label: string }

export function Select<T extends string>({
  label,
  value,
  options,
  onChange,
  className = '',
  disabled,
}: {
  label: string
  value: T
  options: Option<T>[]
  onChange: (value: T) => void
  className?: string
  disabled?: boolean
}) {
  return (
    <select
      aria-label={label}
      disabled={disabled}
      className={`control w-full min-w-0 truncate pr-1 ${className}`}
      value={value}
      onChange={(event) => onChange(event.target.value as T)}
    >
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.label}
        </option>
      ))}
    </select>
  )
}

export function Check({
  label,
  checked,
  onChange,
}: {
  label: string
  checked: boolean
  onChange: (checked: boolean) => void
}) {
  return (
    <label className="flex h-7 cursor-pointer items-center gap-2 text-xs">
      <input
        type="checkbox"
        className="checkbox checkbox-xs checkbox-primary"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {label}
    </label>
  )
}

/** A choice of few, all seen at once. */
export function Segments<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string
  value: T
  options: Option<T>[]
  onChange: (value: T) => void
}) {
  return (
    <div role="radiogroup" aria-label={label} className="flex overflow-hidden rounded border border-line">
      {options.map((option) => (
        <button
          key={option.value}
          type="button"
          role="radio"
          aria-checked={option.value === value}
          onClick={() => onChange(option.value)}
          className={`h-7 flex-1 text-xs whitespace-nowrap ${options.length > 3 ? 'px-1' : 'px-2'} ${option.value === value ? 'bg-neutral font-medium text-neutral-content' : 'bg-base-100 hover:bg-base-200'}`}
        >
          {option.label}
        </button>
      ))}
    </div>
  )
}

export function Section({
  title,
  aside,
  children,
}: {
  title: string
  aside?: ReactNode
  children: ReactNode
}) {
  return (
    <section className="border-b border-line px-3 py-2.5">
      <div className="mb-1 flex items-center justify-between">
        <h3 className="font-semibold">{title}</h3>
        {aside}
      </div>
      <div className="flex flex-col gap-1">{children}</div>
    </section>
  )
}

/** A labelled row of a form: the label on the left, one or two controls on the right. */
export function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="grid min-h-7 grid-cols-[88px_minmax(0,1fr)] items-center gap-2">
      <span className="text-xs text-muted">{label}</span>
      <div className="flex min-w-0 items-center gap-1.5">{children}</div>
    </div>
  )
}

export function ColumnHead({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="flex h-10 shrink-0 items-center justify-between border-b border-line px-3">
      <h2 className="font-semibold">{title}</h2>
      <div className="flex items-center gap-1">{children}</div>
    </div>
  )
}

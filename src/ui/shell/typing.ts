/** Whether a key press belongs to a field that is being typed into. */
export const isTyping = (event: Event): boolean =>
  event.target instanceof HTMLElement &&
  event.target.matches(
    'input:not([type=checkbox]):not([type=range]), textarea, select, [contenteditable=true]',
  )

/** How large the page is seen: 1 is its true size; `fit` is as large as there is room for. */
export type Zoom = number | 'fit'

/** The layouts that an embed may have instead of that on the page. */
export const layouts = ['rows', 'columns', 'grid', 'mosaic', 'list', 'strip', 'slides'] as const

/** How large photos are in it, beside how they are on the page. */
export const sizes = ['small', 'large'] as const

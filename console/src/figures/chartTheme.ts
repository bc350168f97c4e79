import { scheme } from '@/frame/preferences'

/** One of the theme's colours as the page has it now; asks again when the scheme changes. */
export function ink(token: string): string {
  void scheme.value
  return getComputedStyle(document.documentElement).getPropertyValue(`--${token}`).trim()
}

/**
 * How the marks of a side are drawn: its colour, and a pattern for the shell's, so that colour is
 * never all that tells them apart.
 */
export function side(which: 'left' | 'right' | 'both' | 'alarm') {
  return {
    color: ink(which),
    ...(which === 'right'
      ? {
          decal: {
            symbol: 'rect',
            dashArrayX: [1, 0],
            dashArrayY: [2, 4],
            rotation: -Math.PI / 4,
            color: ink('sheet'),
          },
        }
      : {}),
  }
}

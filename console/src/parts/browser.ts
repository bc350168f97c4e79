import { t } from '@/words'
import { computed, ref } from 'vue'

export interface BrowserTrouble {
  code: 'framed_cookies' | 'popups'
  message: string
  remedy: string
}

/** Say whether cookies work for us here: inside another site's frame browsers may block them. */
export function cookiesBlocked(): boolean {
  if (window.self === window.top) return !navigator.cookieEnabled
  document.cookie = 'vennpair_try=1; SameSite=None; Secure; path=/'
  const kept = document.cookie.includes('vennpair_try=1')
  document.cookie = 'vennpair_try=; max-age=0; SameSite=None; Secure; path=/'
  return !kept && window.location.protocol === 'https:'
}

const popups = ref<'unknown' | 'open' | 'blocked'>('unknown')

/** Try a pop-up; call it from a press of a button, as browsers block all others. */
export function tryPopup() {
  const page = window.open('about:blank', '_blank', 'width=120,height=120')
  popups.value = page ? 'open' : 'blocked'
  page?.close()
}

/** What of this browser would keep homework from opening. */
export function useBrowserChecks() {
  const troubles = computed<BrowserTrouble[]>(() => {
    const found: BrowserTrouble[] = []
    if (cookiesBlocked())
      found.push({
        code: 'framed_cookies',
        message: t('parts.browser.this_browser_blocks_cookies_for'),
        remedy: t('parts.browser.open_venn_pair_and_homework'),
      })
    if (popups.value === 'blocked')
      found.push({
        code: 'popups',
        message: t('parts.browser.this_browser_blocks_pop_ups'),
        remedy: t('parts.browser.allow_them_for_this_site'),
      })
    return found
  })
  return { troubles, popups }
}

import { commonDark } from 'naive-ui/es/_styles/common'
import { buttonDark } from 'naive-ui/es/button/styles'
import { checkboxDark } from 'naive-ui/es/checkbox/styles'
import type { GlobalTheme, GlobalThemeOverrides } from 'naive-ui/es/config-provider'
import { inputDark } from 'naive-ui/es/input/styles'
import { popconfirmDark } from 'naive-ui/es/popconfirm/styles'
import { progressDark } from 'naive-ui/es/progress/styles'
import { radioDark } from 'naive-ui/es/radio/styles'
import { selectDark } from 'naive-ui/es/select/styles'
import { stepsDark } from 'naive-ui/es/steps/styles'
import { computed, ref } from 'vue'

// The library's whole dark theme styles ninety components; these are the ones in use.
const darkTheme: GlobalTheme = {
  name: 'dark',
  common: commonDark,
  Button: buttonDark,
  Checkbox: checkboxDark,
  Input: inputDark,
  Popconfirm: popconfirmDark,
  Progress: progressDark,
  Radio: radioDark,
  Select: selectDark,
  Steps: stepsDark,
}

const preference = window.matchMedia('(prefers-color-scheme: dark)')
const dark = ref(preference.matches)
preference.addEventListener('change', (event) => (dark.value = event.matches))

const common = { fontFamily: 'inherit', fontSize: '15px', borderRadius: '8px' }
/** Stations that are not reached yet, or done, in an ink that everybody can read. */
function stations(ink: string): GlobalThemeOverrides['Steps'] {
  return {
    headerTextColorWait: ink,
    headerTextColorFinish: ink,
    indicatorTextColorWait: ink,
    indicatorBorderColorWait: ink,
  }
}
// Ink for what can be pressed: neither side's colour, so that the sides stay the sides.
const light: GlobalThemeOverrides = {
  common: {
    ...common,
    primaryColor: '#4b3a78',
    primaryColorHover: '#5e4b92',
    primaryColorPressed: '#3a2c60',
    primaryColorSuppl: '#4b3a78',
    bodyColor: '#faf8f4',
    textColorBase: '#1d2130',
  },
  Steps: stations('#565b6e'),
}
const night: GlobalThemeOverrides = {
  common: {
    ...common,
    primaryColor: '#b9a8ea',
    primaryColorHover: '#cbbdf2',
    primaryColorPressed: '#a492dc',
    primaryColorSuppl: '#b9a8ea',
    bodyColor: '#15171e',
  },
  Steps: stations('#a9afc2'),
}

/** The console follows the device: dark or light. */
export function useTheme() {
  return {
    theme: computed(() => (dark.value ? darkTheme : null)),
    overrides: computed(() => (dark.value ? night : light)),
  }
}

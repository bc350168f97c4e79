import { commonDark } from 'naive-ui/es/_styles/common'
import { alertDark } from 'naive-ui/es/alert/styles'
import { autoCompleteDark } from 'naive-ui/es/auto-complete/styles'
import { breadcrumbDark } from 'naive-ui/es/breadcrumb/styles'
import { buttonDark } from 'naive-ui/es/button/styles'
import { checkboxDark } from 'naive-ui/es/checkbox/styles'
import type { GlobalTheme, GlobalThemeOverrides } from 'naive-ui/es/config-provider'
import { dataTableDark } from 'naive-ui/es/data-table/styles'
import { datePickerDark } from 'naive-ui/es/date-picker/styles'
import { dialogDark } from 'naive-ui/es/dialog/styles'
import { drawerDark } from 'naive-ui/es/drawer/styles'
import { dropdownDark } from 'naive-ui/es/dropdown/styles'
import { formDark as formItemDark } from 'naive-ui/es/form/styles'
import { inputDark } from 'naive-ui/es/input/styles'
import { messageDark } from 'naive-ui/es/message/styles'
import { modalDark } from 'naive-ui/es/modal/styles'
import { popconfirmDark } from 'naive-ui/es/popconfirm/styles'
import { progressDark } from 'naive-ui/es/progress/styles'
import { radioDark } from 'naive-ui/es/radio/styles'
import { selectDark } from 'naive-ui/es/select/styles'
import { skeletonDark } from 'naive-ui/es/skeleton/styles'
import { stepsDark } from 'naive-ui/es/steps/styles'
import { switchDark } from 'naive-ui/es/switch/styles'
import { tableDark } from 'naive-ui/es/table/styles'
import { tabsDark } from 'naive-ui/es/tabs/styles'
import { tooltipDark } from 'naive-ui/es/tooltip/styles'
import { treeDark } from 'naive-ui/es/tree/styles'
import { uploadDark } from 'naive-ui/es/upload/styles'
import { computed } from 'vue'
import { type Density, density, type Scheme, scheme } from '@/frame/preferences'

/**
 * The colours of the console, by what they mean: the publisher's side is left, the shell's side is
 * right, and what both agree on is between them. A wash is the quiet ground of the same meaning.
 */
const TOKENS: Record<Scheme, Record<string, string>> = {
  light: {
    paper: '#faf8f4',
    sheet: '#ffffff',
    ink: '#1d2130',
    soft: '#575d70',
    rule: '#dedad0',
    left: '#a34f06',
    'left-wash': '#f7e3cc',
    right: '#0b6197',
    'right-wash': '#cfe6f4',
    both: '#4b3a78',
    'both-wash': '#e2dcf1',
    alarm: '#a8123f',
    'alarm-wash': '#f9dbe4',
    good: '#2d6a45',
    'good-wash': '#d8ecdf',
  },
  dark: {
    paper: '#15171e',
    sheet: '#1d2029',
    ink: '#ebe8e1',
    soft: '#a8adbd',
    rule: '#363a47',
    left: '#f2a65e',
    'left-wash': '#4a3119',
    right: '#74c0ee',
    'right-wash': '#17384d',
    both: '#b9a8ea',
    'both-wash': '#322a4c',
    alarm: '#ff8fae',
    'alarm-wash': '#54202f',
    good: '#86cfa3',
    'good-wash': '#1f3a2b',
  },
}

/** How much air there is: a row's height and padding, and the size of the type, in pixels. */
const AIR: Record<Density, { font: number; small: number; medium: number; cell: number }> = {
  roomy: { font: 15, small: 30, medium: 36, cell: 8 },
  compact: { font: 14, small: 26, medium: 30, cell: 4 },
}

/** Give the styles of the page the tokens of today's scheme and density. */
export function dress(): void {
  const root = document.documentElement
  root.dataset.scheme = scheme.value
  root.style.colorScheme = scheme.value
  for (const [name, value] of Object.entries(TOKENS[scheme.value]))
    root.style.setProperty(`--${name}`, value)
  const air = AIR[density.value]
  root.style.setProperty('--font-size', `${air.font}px`)
  root.style.setProperty('--cell', `${air.cell}px`)
}

// The library's whole dark theme styles ninety components; these are the ones in use.
const darkTheme: GlobalTheme = {
  name: 'dark',
  common: commonDark,
  Alert: alertDark,
  AutoComplete: autoCompleteDark,
  Breadcrumb: breadcrumbDark,
  Button: buttonDark,
  Checkbox: checkboxDark,
  DataTable: dataTableDark,
  DatePicker: datePickerDark,
  Dialog: dialogDark,
  Drawer: drawerDark,
  Dropdown: dropdownDark,
  Form: formItemDark,
  Input: inputDark,
  Message: messageDark,
  Modal: modalDark,
  Popconfirm: popconfirmDark,
  Progress: progressDark,
  Radio: radioDark,
  Select: selectDark,
  Skeleton: skeletonDark,
  Steps: stepsDark,
  Switch: switchDark,
  Table: tableDark,
  Tabs: tabsDark,
  Tooltip: tooltipDark,
  Tree: treeDark,
  Upload: uploadDark,
}

/** What the library draws with: our tokens, and an ink of neither side for what can be pressed. */
function overrides(of: Scheme, how: Density): GlobalThemeOverrides {
  const colour = TOKENS[of]
  const air = AIR[how]
  const pressed = of === 'light' ? ['#5e4b92', '#3a2c60'] : ['#cbbdf2', '#a492dc']
  return {
    common: {
      fontFamily: 'inherit',
      fontSize: `${air.font}px`,
      fontSizeSmall: `${air.font - 1}px`,
      fontSizeMedium: `${air.font}px`,
      heightSmall: `${air.small}px`,
      heightMedium: `${air.medium}px`,
      borderRadius: '8px',
      primaryColor: colour.both,
      primaryColorHover: pressed[0],
      primaryColorPressed: pressed[1],
      primaryColorSuppl: colour.both,
      errorColor: colour.alarm,
      successColor: colour.good,
      infoColor: colour.right,
      warningColor: colour.left,
      bodyColor: colour.paper,
      cardColor: colour.sheet,
      modalColor: colour.sheet,
      popoverColor: colour.sheet,
      tableColor: colour.sheet,
      tableHeaderColor: colour.sheet,
      inputColor: colour.sheet,
      textColor1: colour.ink,
      textColor2: colour.ink,
      textColor3: colour.soft,
      textColorBase: colour.ink,
      textColorDisabled: colour.soft,
      placeholderColor: colour.soft,
      borderColor: colour.rule,
      dividerColor: colour.rule,
    },
    DataTable: {
      tdPaddingMedium: `${air.cell}px 10px`,
      thPaddingMedium: `${air.cell}px 10px`,
      thTextColor: colour.soft,
      thFontWeight: '600',
    },
    Table: { tdPaddingMedium: `${air.cell}px 10px`, thPaddingMedium: `${air.cell}px 10px` },
    // Stations that are not reached yet, or done, in an ink that everybody can read.
    Steps: {
      headerTextColorWait: colour.soft,
      headerTextColorFinish: colour.soft,
      indicatorTextColorWait: colour.soft,
      indicatorBorderColorWait: colour.soft,
    },
    Breadcrumb: { itemTextColor: colour.soft, separatorColor: colour.soft },
    Tree: { nodeHeight: `${air.small}px` },
  }
}

/** The console's theme for the component library, in the scheme and density that are chosen. */
export function useTheme() {
  return {
    theme: computed(() => (scheme.value === 'dark' ? darkTheme : null)),
    overrides: computed(() => overrides(scheme.value, density.value)),
  }
}

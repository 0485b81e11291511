import { createTheme, type Theme } from '@mui/material/styles';
import { tokens, type Mode } from './tokens';

export const TEXT_FONT = "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif";
/** MUI in the house's clothes; the only place that overrides its components. */
export function themeFor(mode: Mode): Theme {
  const t = tokens[mode];
  return createTheme({
    palette: {
      mode,
      primary: { main: t.spruce, contrastText: t.onSpruce },
      error: { main: t.brick },
      warning: { main: t.saffron },
      background: { default: t.paper, paper: t.sheet },
      text: { primary: t.ink, secondary: t.second },
      divider: t.line,
    },
    typography: { fontFamily: TEXT_FONT, fontSize: 14, button: { textTransform: 'none', fontWeight: 600 } },
    shape: { borderRadius: 8 },
    transitions: { duration: { enteringScreen: 120, leavingScreen: 90, short: 120, standard: 120 } },
    components: {
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { disableElevation: true, size: 'small' },
        styleOverrides: {
          root: { minHeight: 30, paddingBlock: 3, paddingInline: 12, fontSize: 14, whiteSpace: 'nowrap' },
          endIcon: { '& > *:nth-of-type(1)': { fontSize: 12 } },
          outlined: {
            borderColor: t.line,
            color: t.ink,
            backgroundColor: t.sheet,
            '&:hover': { borderColor: t.third, backgroundColor: t.raised },
          },
        },
      },
      MuiDialog: { defaultProps: { fullWidth: true, maxWidth: 'sm' } },
      MuiDialogTitle: { styleOverrides: { root: { fontSize: 18, fontWeight: 650, paddingBottom: 8 } } },
      MuiPaper: { styleOverrides: { root: { backgroundImage: 'none' } } },
      MuiInputBase: { styleOverrides: { root: { fontSize: 14 } } },
      MuiOutlinedInput: { styleOverrides: { root: { backgroundColor: t.sheet } } },
      MuiInputLabel: { styleOverrides: { root: { fontSize: 14 } } },
      MuiAutocomplete: { styleOverrides: { option: { fontSize: 14, minHeight: 34 } } },
      // a menu that grows moves its lines under the pointer
      MuiMenu: { defaultProps: { transitionDuration: 0 } },
      MuiMenuItem: { styleOverrides: { root: { fontSize: 14, minHeight: 34 } } },
      MuiTextField: { defaultProps: { size: 'small', fullWidth: true } },
      MuiTooltip: {
        defaultProps: { enterDelay: 400 },
        styleOverrides: { tooltip: { backgroundColor: t.label, color: t.onLabel, fontSize: 12.5 } },
      },
      MuiSnackbarContent: {
        styleOverrides: { root: { backgroundColor: t.label, color: t.onLabel, fontSize: 14 } },
      },
    },
  });
}

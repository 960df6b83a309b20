import { createTheme, type Theme } from "@mui/material/styles";

export type Mode = "light" | "dark";

/** Paper and ink, and the oxide colours of heated steel in their order. */
export const ink = {
  light: {
    paper: "#f5f1e8",
    sheet: "#fbf9f4",
    ink: "#23211f",
    muted: "#5d574d",
    hair: "#cbc3b3",
    blue: "#2f4b7c",
    bronze: "#8a4b1f",
    purple: "#7a2f4f",
    straw: "#7d5d0c",
    grey: "#48606e",
  },
  dark: {
    paper: "#1b1a18",
    sheet: "#242220",
    ink: "#eee8dc",
    muted: "#b5ac9d",
    hair: "#48433c",
    blue: "#a3bfec",
    bronze: "#e0a26a",
    purple: "#ec9bb4",
    straw: "#e0c063",
    grey: "#a9c0cc",
  },
} as const;

export function theme(mode: Mode): Theme {
  const c = ink[mode];
  const text = '"Barlow", "Helvetica Neue", Arial, sans-serif';
  return createTheme({
    palette: {
      mode,
      primary: { main: c.blue },
      secondary: { main: c.bronze },
      error: { main: c.purple },
      warning: { main: c.bronze },
      info: { main: c.grey },
      background: { default: c.paper, paper: c.sheet },
      text: { primary: c.ink, secondary: c.muted },
      divider: c.hair,
    },
    shape: { borderRadius: 0 },
    shadows: Array(25).fill("none") as Theme["shadows"],
    typography: {
      fontFamily: text,
      fontSize: 13,
      button: { textTransform: "none", fontWeight: 500, letterSpacing: 0 },
    },
    transitions: { create: () => "none" },
    components: {
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiButton: {
        defaultProps: { size: "small", disableElevation: true },
        styleOverrides: { root: { minWidth: 0, padding: "3px 9px", lineHeight: 1.5 } },
      },
      MuiPaper: { styleOverrides: { root: { backgroundImage: "none", border: `1px solid ${c.hair}` } } },
      MuiMenuItem: { defaultProps: { dense: true } },
      MuiTooltip: { defaultProps: { enterDelay: 500 } },
      MuiTableCell: {
        styleOverrides: {
          root: { padding: "5px 10px", borderColor: c.hair },
          head: { color: c.muted, fontWeight: 500 },
        },
      },
    },
  });
}

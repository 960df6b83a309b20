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
      MuiChip: {
        styleOverrides: {
          root: {
            height: "auto",
            minHeight: 24,
            borderRadius: 0,
            border: `1px solid ${c.hair}`,
            backgroundColor: c.sheet,
            color: "inherit",
            font: `12px/1.5 ${text}`,
            verticalAlign: "baseline",
            "&:hover": { backgroundColor: c.sheet, borderColor: c.ink },
            "&.Mui-focusVisible": { backgroundColor: c.sheet },
            '&[aria-pressed="true"]': { borderColor: c.ink, backgroundColor: c.ink, color: c.sheet },
            "&.mend": { borderColor: c.blue, color: c.blue },
          },
          label: { padding: "0 6px", overflow: "visible" },
        },
      },
      MuiTabs: {
        styleOverrides: {
          root: { minHeight: 0, alignItems: "stretch" },
          indicator: { height: 2, backgroundColor: c.bronze },
        },
      },
      MuiTab: {
        styleOverrides: {
          root: {
            minHeight: 0,
            minWidth: 0,
            maxWidth: "none",
            padding: "4px 10px",
            color: c.muted,
            fontWeight: 400,
            textTransform: "none",
            "&.Mui-selected": { color: c.ink, fontWeight: 600 },
            "&.Mui-focusVisible": { outlineOffset: -2 },
          },
        },
      },
      MuiNativeSelect: {
        styleOverrides: {
          icon: { display: "none" },
          // As it stands in a sentence: as wide as its word.
          select: { "&&&": { height: 22, minWidth: 0, padding: "0 14px 0 4px", borderRadius: 0 } },
        },
      },
      MuiInputBase: {
        styleOverrides: {
          root: { display: "inline", font: "inherit", lineHeight: "inherit" },
          input: { display: "inline-block", width: "auto", animation: "none" },
        },
      },
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

import { CssBaseline, ThemeProvider } from "@mui/material";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useMemo, useState } from "react";
import { BrowserRouter, Link, Route, Routes } from "react-router";
import { watchThePage } from "../document/saver";
import { Briefs } from "../pages/Briefs";
import { Frames } from "../pages/Frames";
import { Papers } from "../pages/Papers";
import { Pieces } from "../pages/Pieces";
import { Rack } from "../pages/Rack";
import { ink, type Mode, theme } from "../theme/theme";
import { JobShell, TopBar } from "./Shell";

const client = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } },
});

export function App() {
  const [mode, setMode] = useState<Mode>(() =>
    localStorage.getItem("steelk.mode") === "dark" ? "dark" : "light",
  );
  useEffect(watchThePage, []);
  const flip = () => setMode(mode === "light" ? "dark" : "light");
  const made = useMemo(() => theme(mode), [mode]);
  useLayoutEffect(() => {
    localStorage.setItem("steelk.mode", mode);
    document.documentElement.dataset.mode = mode;
    for (const [name, value] of Object.entries(ink[mode]))
      document.documentElement.style.setProperty(`--${name}`, value);
  }, [mode]);
  return (
    <ThemeProvider theme={made}>
      <CssBaseline />
      <QueryClientProvider client={client}>
        {/* Where one goes is there at once: a letter pressed after “+ piece” belongs to the new piece. */}
        <BrowserRouter useTransitions={false}>
          <Routes>
            <Route
              path="/"
              element={
                <div className="shell">
                  <TopBar mode={mode} flip={flip}>
                    <span className="grow" />
                  </TopBar>
                  <Rack />
                </div>
              }
            />
            <Route path="/jobs/:id" element={<JobShell mode={mode} flip={flip} />}>
              <Route path="briefs/:brief?" element={<Briefs mode={mode} />} />
              <Route path="pieces/:piece?" element={<Pieces mode={mode} />} />
              <Route path="frames/:frame?" element={<Frames mode={mode} />} />
              <Route path="papers" element={<Papers />} />
            </Route>
            <Route
              path="*"
              element={
                <p className="empty wide">
                  There is nothing at this address. <Link to="/">To the rack</Link>
                </p>
              }
            />
          </Routes>
        </BrowserRouter>
      </QueryClientProvider>
    </ThemeProvider>
  );
}

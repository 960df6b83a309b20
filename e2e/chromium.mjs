// How Debian's Chromium is started: by the tests, for pictures and for the measure of a keystroke.
export const PATH = "/usr/bin/chromium";

export const ARGS = [
  "--no-sandbox",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--use-angle=swiftshader",
  "--enable-unsafe-swiftshader",
  // Without a graphics chip the page itself is painted twice as fast by plain software.
  "--disable-gpu-compositing",
  "--disable-gpu-rasterization",
];

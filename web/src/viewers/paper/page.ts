/// <reference types="vite/client" />
import type { PDFDocumentProxy } from "pdfjs-dist";
import worker from "pdfjs-dist/build/pdf.worker.min.mjs?url";

/** A page of a drawing as something that can be drawn, with its size in its own units. */
export interface Page {
  wide: number;
  high: number;
  /** Pages in all. */
  pages: number;
  /** Address of the picture. */
  href: string;
}

/** Dots of a drawn PDF page for each of its points. */
const SHARP = 2.5;
/** More dots than this are too much for a page. */
const MOST = 5_000;

async function document_(url: string): Promise<PDFDocumentProxy> {
  const pdf = await import("pdfjs-dist");
  pdf.GlobalWorkerOptions.workerSrc = worker;
  // Letters are drawn as outlines: the page lets no fonts in but its own.
  return pdf.getDocument({ url, disableFontFace: true, isEvalSupported: false }).promise;
}

async function ofPdf(url: string, page: number): Promise<Page> {
  const doc = await document_(url);
  try {
    const one = await doc.getPage(Math.min(Math.max(page, 1), doc.numPages));
    const { width, height } = one.getViewport({ scale: 1 });
    const scale = Math.min(SHARP, MOST / Math.max(width, height));
    const viewport = one.getViewport({ scale });
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [Math.ceil(viewport.width), Math.ceil(viewport.height)];
    await one.render({ canvas, viewport, background: "#ffffff" }).promise;
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done));
    if (!blob) throw new Error("the page is too large to be drawn");
    return { wide: width, high: height, pages: doc.numPages, href: URL.createObjectURL(blob) };
  } finally {
    void doc.loadingTask.destroy();
  }
}

async function ofPicture(url: string): Promise<Page> {
  const image = new Image();
  image.src = url;
  await image.decode();
  return { wide: image.naturalWidth, high: image.naturalHeight, pages: 1, href: url };
}

/** Draws a page; what was drawn of a PDF is let go by `release`. */
export async function drawn(digest: string, isPdf: boolean, page: number): Promise<Page> {
  const url = `/api/files/${digest}`;
  return isPdf ? ofPdf(url, page) : ofPicture(url);
}

export function release(page: Page): void {
  if (page.href.startsWith("blob:")) URL.revokeObjectURL(page.href);
}

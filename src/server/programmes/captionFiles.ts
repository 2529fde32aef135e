/** Endings of caption files that lie beside a master: SubRip, WebVTT, TTML, EBU STL, Scenarist, Advanced SubStation. */
export const CAPTION_ENDINGS = ['.srt', '.vtt', '.ttml', '.dfxp', '.stl', '.scc', '.ass'] as const;

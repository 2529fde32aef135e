/**
 * Whether the name of a track's handler (ISO/IEC 14496-12, 8.4.3), where QuickTime and MP4 keep its title, is a word that its writer leaves
 * there by itself: `SoundHandler`, `Core Media Audio` (common practice, no source).
 */
export function isWritersWord(name: string): boolean {
  return /handler|media|^[^\p{L}\p{N}]*$/iu.test(name);
}

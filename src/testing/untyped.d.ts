/** What tests use of packages that ship no types for it. */
declare module 'smpte-timecode' {
  export default function Timecode(frame: number, rate: number, drops: boolean): { toString(): string };
}

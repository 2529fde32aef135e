import { makeStorable } from '../../core/text.ts';

/** The part of the engine's report that is read. */
export interface ProbeReport {
  readonly format?: {
    readonly format_name?: string;
    readonly duration?: string;
    readonly start_time?: string;
    readonly tags?: Tags;
  };
  readonly streams?: readonly ProbeStream[];
  readonly chapters?: readonly {
    readonly start_time?: string;
    readonly end_time?: string;
    readonly tags?: Tags;
  }[];
}

/** Names and values as the file's writer left them; names in whatever case. */
export type Tags = Readonly<Record<string, string>>;

export interface ProbeStream {
  readonly index: number;
  readonly codec_type?: string;
  readonly codec_name?: string;
  readonly profile?: string;
  readonly width?: number;
  readonly height?: number;
  readonly pix_fmt?: string;
  readonly bits_per_raw_sample?: string;
  readonly bits_per_sample?: number;
  readonly level?: number;
  readonly has_b_frames?: number;
  readonly channel_layout?: string;
  readonly tags?: Tags;
  readonly sample_aspect_ratio?: string;
  readonly avg_frame_rate?: string;
  readonly r_frame_rate?: string;
  readonly field_order?: string;
  readonly color_space?: string;
  readonly color_primaries?: string;
  readonly color_transfer?: string;
  readonly color_range?: string;
  readonly start_time?: string;
  readonly duration?: string;
  readonly nb_frames?: string;
  readonly channels?: number;
  readonly sample_rate?: string;
  readonly bit_rate?: string;
  readonly disposition?: { readonly attached_pic?: number };
  readonly side_data_list?: readonly SideData[];
}

/** What travels beside a picture: rotation, and light levels as fractions or numbers. */
export interface SideData {
  readonly side_data_type?: string;
  readonly rotation?: number;
  readonly max_luminance?: string;
  readonly min_luminance?: string;
  readonly red_x?: string;
  readonly red_y?: string;
  readonly green_x?: string;
  readonly green_y?: string;
  readonly blue_x?: string;
  readonly blue_y?: string;
  readonly white_point_x?: string;
  readonly white_point_y?: string;
  readonly max_content?: number;
  readonly max_average?: number;
}

/**
 * A word of the report, where the engine's several ways of saying “nothing” become null.
 */
export function known(text: string | undefined): string | null {
  return text === undefined || ['unknown', 'unspecified', 'reserved', 'N/A', ''].includes(text) ? null : text;
}

/** A number of the report, or null when it is none. */
export function numberOf(text: string | undefined): number | null {
  const value = Number(text);
  return text !== undefined && Number.isFinite(value) ? value : null;
}

/** A tag by its name in any case; null when it is not there or empty. */
export function tagOf(tags: Tags | undefined, name: string): string | null {
  const found = Object.entries(tags ?? {}).find(([key]) => key.toLowerCase() === name);
  return found?.[1].trim() || null;
}

/** Longer texts are cut: a title of megabytes is somebody's mischief, and everyone who lists programmes would get it. */
const LONGEST_TEXT = 500;

/** Tags, chapters and streams of one file that are kept. */
const MOST_ENTRIES = 1000;

/**
 * Reads a report, with every text in it cut to a sane length and free of what no database can hold.
 *
 * @throws SyntaxError when the report broke off.
 */
export function readReport(text: string): ProbeReport {
  return JSON.parse(text, (_key, value: unknown) => {
    if (typeof value === 'string') return sane(value);
    if (Array.isArray(value)) return value.slice(0, MOST_ENTRIES) as unknown;
    if (typeof value !== 'object' || value === null) return value;
    const entries = Object.entries(value).slice(0, MOST_ENTRIES);
    return Object.fromEntries(entries.map(([key, inner]) => [sane(key), inner as unknown]));
  }) as ProbeReport;
}

function sane(text: string): string {
  // Cut first by code points, so that no character is halved, then clean what is left.
  const cut =
    text.length > LONGEST_TEXT
      ? `${Array.from(text.slice(0, LONGEST_TEXT * 2))
          .slice(0, LONGEST_TEXT)
          .join('')}…`
      : text;
  return makeStorable(cut);
}

/** What frames say besides their picture, of a report of some; nothing where it is none. */
export function readFrameLight(report: string): SideData[] {
  try {
    const { frames = [] } = JSON.parse(report) as {
      readonly frames?: readonly { readonly side_data_list?: SideData[] }[];
    };
    return frames.flatMap(({ side_data_list: told = [] }) => told);
  } catch {
    return [];
  }
}

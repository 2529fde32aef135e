/** What the engine says of a file that was found. */
export interface FoundFile {
  /** Its word for the family of containers. */
  readonly family: string;
  /** The brand an ISO file gives itself (ISO/IEC 14496-12). */
  readonly brand: string | null;
  /** Of every stream, by the engine's names. */
  readonly codecs: readonly string[];
}

/** How a container is written. */
export interface Muxer {
  /** As the engine names it. */
  readonly format: string;
  /** Besides the format: where the index lies. */
  readonly arguments: readonly string[];
  /** Ending of files in the working folder, without its dot. */
  readonly extension: string;
  /** How finely it stamps frames; where it is not told, as finely as they were encoded. */
  readonly stampsPerSecond?: number;
  /** Where it keeps the title of a sound, where that is not told as one. */
  readonly titleTag?: string;
  /** As what captions lie inside it, as the engine names that; where it is not told, none do. */
  readonly captionsAs?: string;
  /** Whether a file that was found is of this container; where it is not told, another container names such files. */
  readonly isOf?: (file: FoundFile) => boolean;
}

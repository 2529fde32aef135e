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
}

/** What is known of a kind of step, whatever it is set to. */
export interface StepDefinition {
  /** Whether a result is compared with frames that went through it too: a crop is no loss, a smaller size is. */
  readonly isInReference: boolean;
  /** Frames before the first that it has to have seen, where what it makes of one goes by those before. */
  readonly leadFrames?: number;
}

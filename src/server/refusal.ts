import type { ErrorBody } from '../contract/views.ts';
import type { FieldFault } from '../contract/strictObject.ts';

/** One table from problem to HTTP status; every refusal's code is in it. */
const STATUS = {
  'body-not-json': 400,
  'field-wrong': 400,
  'outside-media-folders': 403,
  'other-site': 403,
  'host-unknown': 403,
  'address-unreadable': 400,
  'method-unknown': 405,
  'body-too-large': 413,
  'not-found': 404,
  'file-not-found': 404,
  'already-in': 409,
  'other-file': 409,
  'file-growing': 409,
  'output-exists': 409,
  'programme-in-use': 409,
  'ships-unchanged': 409,
  'file-not-there': 410,
  'not-a-file': 422,
  'file-empty': 422,
  'file-is-script': 422,
  'file-is-picture': 422,
  'file-cut-off': 422,
  'file-not-media': 422,
  'file-absurd': 422,
  'file-damaged': 422,
  'file-unreadable': 422,
  'frame-outside': 422,
  'frame-unreadable': 422,
  'captions-unreadable': 422,
  'mark-missing': 422,
  'captions-are-pictures': 422,
  'memory-limit': 422,
  'engine-silent': 422,
  'engine-killed': 503,
  'no-picture': 422,
  'no-sound': 422,
  'nothing-left': 422,
  'cap-below-floor': 422,
  'encoder-missing': 422,
  'hardware-missing': 422,
  'hardware-holds-average': 422,
  'portion-outside': 422,
  unsuited: 422,
  'sound-rate-outside': 422,
  'frame-too-small': 422,
  'frame-too-large': 422,
  'sounding-failed': 422,
  'nothing-to-try': 422,
  'crop-too-large': 422,
  'copy-cannot': 422,
  'codec-not-in-container': 422,
  'passes-not-held': 422,
  'buffer-not-held': 422,
  'highest-below-average': 422,
  'container-without-picture': 422,
  'track-missing': 422,
  'tracks-not-joined': 422,
  'one-track': 422,
  'channels-not-carried': 422,
  'format-not-taken': 422,
  'transparency-not-carried': 422,
  'transparency-not-weighed': 422,
  'setting-not-taken': 422,
  'level-too-small': 422,
  'sample-rate-outside': 422,
  'name-unusable': 422,
  'folder-unusable': 422,
  'set-by-environment': 409,
  'master-changed': 422,
  'destination-read-only': 422,
  'destination-gone': 422,
  'destination-full': 507,
  'disk-full': 507,
  'engine-missing': 503,
  'engine-failed': 500,
  stopped: 503,
  'internal-error': 500,
} as const;

export type RefusalCode = keyof typeof STATUS;

interface Details {
  readonly field?: string;
  readonly all?: ErrorBody['error']['all'];
  readonly cause?: unknown;
}

/** An expected "no" with a sentence a person can act on. */
export class Refusal extends Error {
  readonly code: RefusalCode;
  readonly details: Details;

  constructor(code: RefusalCode, message: string, details: Details = {}) {
    super(message, { cause: details.cause });
    this.name = 'Refusal';
    this.code = code;
    this.details = details;
  }

  get status(): number {
    return STATUS[this.code];
  }

  toBody(): ErrorBody {
    const { field, all } = this.details;
    return { error: { code: this.code, message: this.message, ...(field ? { field } : {}), ...(all ? { all } : {}) } };
  }
}

/** Tells a refusal by its name: the server's code is bundled in several pieces, each with a class of its own. */
export function isRefusal(error: unknown): error is Refusal {
  return error instanceof Error && error.name === 'Refusal';
}

/** Whether a code from elsewhere (the engine, a plan) is one that can be answered with. */
export function isRefusalCode(code: string): code is RefusalCode {
  return Object.hasOwn(STATUS, code);
}

/** More faults than this are counted, not listed: nobody reads twenty thousand sentences. */
const LISTED_FAULTS = 10;

/** A refusal of fields, naming the first, listing the first few and counting the rest. */
export function refuseFields(faults: readonly [FieldFault, ...FieldFault[]]): Refusal {
  const listed = faults.slice(0, LISTED_FAULTS);
  const all = listed.map((fault) => ({ code: 'field-wrong', message: fault.message, field: fault.field }));
  const [first] = faults;
  const more = faults.length - listed.length;
  const message = `${first.field ? `${first.field}: ` : ''}${first.message}${more > 0 ? ` There are ${more} more faults than the ${listed.length} listed.` : ''}`;
  return new Refusal('field-wrong', message, { field: first.field, all });
}

import { number } from 'yup';
import { fault, strictObject } from './strictObject.ts';

/** Far more than any rate or shape is written with. */
const MOST = 1_000_000;

const part = () =>
  number()
    .required(fault('a whole number'))
    .integer(fault('a whole number'))
    .min(1, fault('at least 1'))
    .max(MOST, fault(`at most ${MOST.toLocaleString('en')}`));

/** An exact fraction, such as 30000/1001. */
export const fraction = strictObject({ num: part(), den: part() });

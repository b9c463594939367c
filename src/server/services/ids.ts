/** Ids that the server makes. */
import { customAlphabet } from 'nanoid';

export const newId = customAlphabet('0123456789abcdefghijklmnopqrstuvwxyz', 12);

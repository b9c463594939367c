import type { Document } from '../../src/core/document';
import {
  beamOnSupports,
  beltLength,
  boltPreload,
  buckling,
  cantilever,
  compressionSpring,
  gearPair,
  keyInShaft,
  pressFit,
  shaftInTorsion,
  thermalExpansion,
} from './calculations';
import { keys, materials, preferredNumbers, screwsAndNuts, threadsAndHoles } from './masters';
import { inchThreads, stock } from './stock';

/** Everything that ships on the shelf. */
export function shelfDocuments(): Document[] {
  return [
    threadsAndHoles(),
    screwsAndNuts(),
    materials(),
    keys(),
    preferredNumbers(),
    inchThreads(),
    stock(),
    beamOnSupports(),
    cantilever(),
    shaftInTorsion(),
    keyInShaft(),
    boltPreload(),
    compressionSpring(),
    beltLength(),
    gearPair(),
    pressFit(),
    buckling(),
    thermalExpansion(),
  ];
}

import { shuffler } from 'd3-array'
import { randomLcg } from 'd3-random'

/**
 * Some of a list, drawn by chance that a seed repeats.
 *
 * @template T
 * @param {readonly T[]} list
 * @param {number} count at most so many
 * @param {number} seed
 * @returns {T[]}
 */
export const sample = (list, count, seed) => shuffler(randomLcg(seed))([...list]).slice(0, count)

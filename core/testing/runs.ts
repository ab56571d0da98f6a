/** Whether the long versions of tests are wanted: `EMBRELL_THOROUGH=1 npm test`. */
export const THOROUGH = process.env.EMBRELL_THOROUGH === '1';

/**
 * How often something is tried: `all` times where the long version is wanted, else `usual` times. Each run takes the seed of
 * its commit, so that over the commits far more is tried than in any one of them.
 */
export const runs = (all: number, usual = 60): number => (THOROUGH ? all : Math.min(all, usual));

/** What those who bundle, hand out and run test files agree on. */
export const FOLDER = '.tests';

/** Where the bundle of a test, or of a program that a test starts, lies. */
export const bundleOf = (file) => `${FOLDER}/${file.replace(/\.ts$/, '.mjs')}`;

/** A test of this name says that all tests of a file are through. */
export const MARK = 'all of ';

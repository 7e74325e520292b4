// The code of a worker thread: piscina calls these by name.
export { makeFile, prepare, read, takeIn, unpack } from './steps';

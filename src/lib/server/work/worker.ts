// The code of a worker thread: piscina calls these by name.
export { makeFile, prepare, takeIn } from './steps';

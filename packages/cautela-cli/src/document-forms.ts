// Loaded only by runs that write such a form: what it needs is large.
export { report } from "cautela";

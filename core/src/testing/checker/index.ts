export { type Judged, judgePlan, type Told } from "./judge.ts";

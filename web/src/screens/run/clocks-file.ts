export { writeClocksIcs } from "@uppershed/core/formats";

import { type Deed, mayDo } from "@uppershed/contract";
import { useMeQuery } from "../store/api.ts";

/** Whether the person signed in may do something; the server goes by the same table, whatever is shown. */
export const useMay = (deed: Deed): boolean => {
  const { data: me } = useMeQuery();
  return me !== undefined && mayDo(me.person.role, deed);
};

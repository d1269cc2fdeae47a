import { mayDo, type Role } from "@uppershed/contract";
import { NavLink } from "react-router";

const SCREENS = [
  { to: "/workshop/rules", label: "House rules" },
  { to: "/workshop/places", label: "Places" },
  { to: "/workshop/kit", label: "Kit" },
] as const;

/** The screens of the workshop itself. */
export const HouseNav = ({ role }: { role: Role }) => (
  <nav
    aria-label="The workshop"
    className="flex flex-wrap gap-x-1 border-b border-line text-[15px]"
  >
    {[
      ...(mayDo(role, "people") ? [{ to: "/workshop", label: "People and backups" }] : []),
      ...SCREENS,
    ].map(({ to, label }) => (
      <NavLink
        key={to}
        to={to}
        end
        className={({ isActive }) =>
          `flex min-h-11 items-center px-3 ${isActive ? "border-b-4 border-green font-bold" : "hover:underline"}`
        }
      >
        {label}
      </NavLink>
    ))}
  </nav>
);

import { createContext, type ReactNode, useContext, useEffect, useState } from "react";
import { createPortal } from "react-dom";

/** The bar has a place that each screen fills with what it is about. */
const Place = createContext<HTMLElement | null>(null);
export const BarPlace = Place.Provider;

export const InBar = ({ children }: { children: ReactNode }) => {
  const place = useContext(Place);
  return place ? createPortal(children, place) : null;
};

/** The title of the browser's tab. */
export const useTitle = (title: string): void => {
  useEffect(() => {
    document.title = title ? `${title} · Upper Shed` : "Upper Shed";
  }, [title]);
};

export const usePlace = () => useState<HTMLElement | null>(null);

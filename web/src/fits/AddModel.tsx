import { LayoutGrid, Pencil, Plus, Spline } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";

import type { Offer } from "../api/client";
import { useCalmAnalysis, useChange } from "../study/context";
import { MOST_FITS, nextModel, useOffered } from "./catalogue";
import { Gallery } from "./lateGallery";
import { useWithheld } from "../classes/useTask";
import { Menu } from "../ui/Menu";

/** One more fit, by every way there is: the next usual model, one of all, an own formula, a curve through every reading. */
export function AddModel() {
  const change = useChange();
  const { fits } = useCalmAnalysis();
  const offers = useOffered();
  const [choosing, setChoosing] = useState(false);
  const full = fits.length >= MOST_FITS;
  const byHand = useWithheld("fit");
  const next = offers.length ? nextModel(offers, fits) : null;
  const through = offers.find((offer) => offer.group === "interpolation");
  return (
    <>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger asChild>
          <button className="button" disabled={!next || full} title={full ? `A study holds ${MOST_FITS} fits at most` : undefined}>
            <Plus size={14} /> Add a model
          </button>
        </DropdownMenu.Trigger>
        <Menu>
          {next && (
            <DropdownMenu.Item
              className="menu-item"
              onSelect={() => change({ kind: "add_fit", family: next.family, options: next.options, by_hand: byHand })}
            >
              <Plus size={15} /> <span className="font-book text-plain">{next.name}</span>
            </DropdownMenu.Item>
          )}
          {byHand ? (
            <Others offers={offers} onPick={({ family, options }) => change({ kind: "add_fit", family, options, by_hand: true })} />
          ) : (
            <DropdownMenu.Item className="menu-item" onSelect={() => setChoosing(true)}>
              <LayoutGrid size={15} /> All models, drawn over these readings
            </DropdownMenu.Item>
          )}
          {offers.some(({ family }) => family === "formula") && (
            <DropdownMenu.Item className="menu-item" onSelect={() => change({ kind: "add_fit", family: "formula", by_hand: byHand })}>
              <Pencil size={15} /> Own formula, or a known curve for comparison
            </DropdownMenu.Item>
          )}
          {through && (
            <DropdownMenu.Item
              className="menu-item"
              onSelect={() => change({ kind: "add_fit", family: through.family, options: through.options })}
            >
              <Spline size={15} /> A curve through every reading
            </DropdownMenu.Item>
          )}
        </Menu>
      </DropdownMenu.Root>
      {choosing && <Gallery fit={null} onClose={() => setChoosing(false)} />}
    </>
  );
}

interface OthersProps {
  offers: Offer[];
  onPick: (offer: Offer) => void;
}

/** The families by their names, for curves that are set by hand. */
function Others({ offers, onPick }: OthersProps) {
  const models = offers.filter(({ group, family }) => group !== "interpolation" && family !== "formula");
  const families = [...new Map(models.map((offer) => [offer.family, offer])).values()];
  return families.map((offer) => (
    <DropdownMenu.Item key={offer.family} className="menu-item" onSelect={() => onPick(offer)}>
      <Plus size={15} /> <span className="font-book text-plain">{offer.name}</span>
    </DropdownMenu.Item>
  ));
}

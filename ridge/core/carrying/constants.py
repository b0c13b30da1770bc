"""Constants of nature that laboratory courses use, with their CODATA values and uncertainties as SciPy has them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import sqrt

from scipy.constants import physical_constants


@dataclass(frozen=True)
class KnownConstant:
    """``standard_error`` is zero where the constant is exact by definition (JCGM 100, 4.3.7 for limits of another kind)."""

    symbol: str
    name: str
    value: float
    standard_error: float
    unit: str


_FROM_CODATA = {
    "c_light": ("speed of light in vacuum", "m/s"),
    "h_planck": ("Planck constant", "J·s"),
    "e_charge": ("elementary charge", "C"),
    "k_boltzmann": ("Boltzmann constant", "J/K"),
    "N_avogadro": ("Avogadro constant", "1/mol"),
    "R_gas": ("molar gas constant", "J/(mol·K)"),
    "F_faraday": ("Faraday constant", "C/mol"),
    "G_newton": ("Newtonian constant of gravitation", "m³/(kg·s²)"),
    "m_electron": ("electron mass", "kg"),
    "m_proton": ("proton mass", "kg"),
    "epsilon_0": ("vacuum electric permittivity", "F/m"),
    "mu_0": ("vacuum mag. permeability", "N/A²"),
    "sigma_sb": ("Stefan-Boltzmann constant", "W/(m²·K⁴)"),
    "R_rydberg": ("Rydberg constant", "1/m"),
}


def _known(symbol: str, name: str, unit: str) -> KnownConstant:
    value, _, error = physical_constants[name]
    # What is exact by definition is given with the rounding of its last digit.
    exact = error == 0 or abs(error) < 1e-15 * abs(value)
    return KnownConstant(symbol, name.replace("mag.", "magnetic"), float(value), 0.0 if exact else float(error), unit)


CONSTANTS: Mapping[str, KnownConstant] = {
    symbol: _known(symbol, name, unit) for symbol, (name, unit) in _FROM_CODATA.items()
}


def rectangular(half_width: float) -> float:
    """Standard uncertainty of what lies anywhere within ± so much with equal chance: over √3 (JCGM 100, 4.3.7)."""
    return half_width / sqrt(3)


def expanded(half_width: float, factor: float) -> float:
    """Standard uncertainty of an expanded one with its coverage factor k (JCGM 100, 4.3.3)."""
    return half_width / factor


def in_quadrature(*parts: float) -> float:
    """Standard uncertainty of independent parts together: √Σu² (JCGM 100, 5.1.2)."""
    return sqrt(sum(part * part for part in parts))

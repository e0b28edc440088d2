"""The air a ball flies through."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

GAS_DRY = 287.058  # J/(kg K)
GAS_VAPOUR = 461.495  # J/(kg K)


@dataclass(frozen=True, kw_only=True)
class Air:
    """Weather at the ball.

    Parameters
    ----------
    temperature_c : float
        Temperature [°C].
    pressure_hpa : float
        Station pressure [hPa].
    humidity : float
        Relative humidity [0 to 1].
    wind_mps : float
        Wind speed ten meters above the ground [m/s].
    wind_from_deg : float
        Where the wind comes from [°]: 0 is a headwind, 90 from the right.
    """

    temperature_c: float = 20.0
    pressure_hpa: float = 1013.25
    humidity: float = 0.5
    wind_mps: float = 0.0
    wind_from_deg: float = 0.0

    @property
    def density(self) -> float:
        """Density of moist air [kg/m³], ideal gases; saturation pressure after Tetens (1930)."""
        kelvin = self.temperature_c + 273.15
        saturation = 6.1078 * 10 ** (7.5 * self.temperature_c / (self.temperature_c + 237.3))
        vapour = self.humidity * saturation
        return 100 * ((self.pressure_hpa - vapour) / (GAS_DRY * kelvin) + vapour / (GAS_VAPOUR * kelvin))

    @property
    def viscosity(self) -> float:
        """Kinematic viscosity [m²/s], Sutherland's law (White, Viscous Fluid Flow, 2006)."""
        kelvin = self.temperature_c + 273.15
        dynamic = 1.716e-5 * (kelvin / 273.15) ** 1.5 * (273.15 + 110.4) / (kelvin + 110.4)
        return dynamic / self.density

    @property
    def wind(self) -> np.ndarray:
        """Wind velocity at ten meters [m/s] as (forward, up, right)."""
        angle = np.radians(self.wind_from_deg)
        return self.wind_mps * np.array([-np.cos(angle), 0.0, -np.sin(angle)])

    @staticmethod
    def wind_share(height: np.ndarray) -> np.ndarray:
        """Wind at a height [m] as a share of that at ten meters: power law, exponent 1/7 (open ground)."""
        return (np.maximum(height, 0.1) / 10.0) ** (1 / 7)

"""Constants of nature and of materials that several formulas share."""

STANDARD_GRAVITY_M_S2 = 9.80665  # ISO 80000-3
AIR_CONSTANT_J_PER_KG_K = 287.05287  # ISO 2533:1975
AIR_HEAT_RATIO = 1.4
AMBIENT_PRESSURE_PA = 101_325.0
STEEL_MODULUS_PA = 206e9  # Shigley's Mechanical Engineering Design
STEEL_DENSITY_KG_M3 = 7850.0
ABSOLUTE_ZERO_C = -273.15

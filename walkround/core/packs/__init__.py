"""Packs: what they are, what was read on them, and what that means.

``chemistry`` cells and curves · ``pack`` one pack and its state · ``reading`` what was measured · ``charge`` how full ·
``bands`` readings against the practice · ``inspection`` by eye, hand and nose · ``trend`` a robust line with its
interval · ``health`` capacity, resistance and imbalance over time · ``load`` what the volts do in flight · ``upkeep`` what
each pack needs now, and which flies next · ``charging`` the plan for the charger · ``table`` rows from other devices.
"""

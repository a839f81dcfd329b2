"""Problems of families."""

from urform.declaration.problems import declared, kind


def _example(members: str, makes: str = "{hull: Hull}", unknown: str = "error") -> str:
    return declared(f"""
    products:
      Hull:
        required: {{length: real}}
        variants: {{SteelHull: {{}}, SparHull: {{required: {{taper: real}}}}}}
      Mooring: {{variants: {{ChainMooring: {{}}, SinkerMooring: {{required: {{mass: integer}}}}}}}}
    families:
      Outfit:
        makes: {makes}
        members: {members}
        unknown: {unknown}
    """)


NOT_A_MEMBER = kind(
    "not-a-member",
    "'{name}' is no member of {family}.{hint}",
    "use one of: {names}",
    "An unknown key can be answered with a member that the family declares.",
    _example("{Calm: {hull: SteelHull}, Open: {hull: SteelHull}}", unknown="{use: Ice}"),
)
ROLE_TYPE = kind(
    "role-type",
    "the role '{role}' makes {type}, which is no product",
    "name a product, or list<product>",
    "A family makes products, one or several per role.",
    _example("{Calm: {hull: SteelHull}, Open: {hull: SteelHull}}", makes="{hull: text}"),
)
MEMBER_INCOMPLETE = kind(
    "member-incomplete",
    "{member} makes nothing for: {roles}",
    "name a product for each role",
    "Every member of a family is complete, so that clients need not ask.",
    _example("{Calm: {hull: SteelHull}, Open: {}}"),
)
UNKNOWN_ROLE = kind(
    "unknown-role",
    "{family} has no role '{role}'.{hint}",
    "use one of: {known}",
    "A member fills the roles that its family makes.",
    _example("{Calm: {hull: SteelHull, mast: SteelHull}, Open: {hull: SteelHull}}"),
)
ROLE_SHAPE = kind(
    "role-shape",
    "'{role}' makes {type}, so it wants {wanted}",
    "write {wanted}",
    "A role is one product or a list of them, the same for every member.",
    _example("{Calm: {hull: [SteelHull]}, Open: {hull: SteelHull}}"),
)
ROLE_MISFIT = kind(
    "role-misfit",
    "'{product}' is no {base}, which '{role}' asks for.{hint}",
    "use one of: {names}",
    "The parts of a family fit together: each is of the type that its role promises.",
    _example("{Calm: {hull: ChainMooring}, Open: {hull: SteelHull}}"),
)
GIVEN_BY_CALLER = kind(
    "given-by-caller",
    "'{field}' is given by the caller of the role",
    "drop it from `with`, or give it as another default on {product}",
    "A role takes the fields of its base product; what a member writes would be overruled or overrule the caller.",
    _example("{Calm: {hull: {use: SteelHull, with: {length: 4}}}, Open: {hull: SteelHull}}"),
)
ROLE_NEEDS_MORE = kind(
    "role-needs-more",
    "{product} needs {fields}, and nobody gives it",
    "give it in `with`, or make it optional",
    "A required field comes from the role's caller, who knows only the base product, or from the member.",
    _example("{Calm: {hull: SparHull}, Open: {hull: SteelHull}}"),
)
ROLE_BY_VALUES = kind(
    "role-by-values",
    "the role '{role}' makes {product}, which its own factory chooses by values",
    "let clients ask the factory of {product}, or give it a form with keys",
    "A member names the variant that it makes, and would go past what the factory refuses and chooses.",
    declared("""
    products:
      TideOffset:
        variants: {KnownOffset: {required: {centimetres: integer}}, NoOffset: {single: true}}
        factory: {form: by_values, choose: [{use: NoOffset, when: centimetres == 0}, {use: KnownOffset}]}
    families:
      Tides:
        makes: {offset: TideOffset}
        members: {Calm: {offset: NoOffset}, Open: {offset: NoOffset}}
    """),
)

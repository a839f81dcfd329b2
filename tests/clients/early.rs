//! Builders of which the compiler tells what is missing, used as a program uses them.

use PACKAGE::*;

fn legs() -> Vec<Leg> {
    vec![Leg::new("bar", 2).unwrap()]
}

/// Takes a builder that lacks a berth at most.
fn moored<const BERTH: bool>(builder: RefitPlanBuilder<BERTH, true, true>) -> Creation<RefitPlan> {
    builder.berth("north").build()
}

#[test]
fn parts_are_given_where_they_become_known() {
    for urgent in [false, true] {
        let mut builder = RefitPlanBuilder::new().crew(3).legs(legs());
        if urgent {
            builder = builder.urgent(true);
        }
        assert_eq!(moored(builder).unwrap().urgent(), urgent);
    }
    assert_eq!(moored(RefitPlanBuilder::from_short_handed().berth("south")).unwrap().berth(), "north");
}

#[test]
fn a_builder_builds_again_with_one_thing_changed() {
    let builder = RefitPlanBuilder::from_spring().berth("north").legs(legs());
    let first = builder.build().unwrap();
    let second = builder.clone().add_leg(Leg::new("pier", 1).unwrap()).build().unwrap();
    assert_eq!((first.legs().len(), second.legs().len()), (1, 2));
    assert_eq!(builder.build().unwrap(), first);
    assert_eq!(RefitPlanBuilder::like(&first).build().unwrap(), first);
}

#[test]
fn an_emptied_builder_keeps_its_type_and_nothing_else() {
    let mut builder = LogbookBuilder::default().keeper("Ines").pages(3);
    assert_eq!(builder.build().unwrap().pages(), 3);
    assert!(matches!(builder.build(), Err(CreationError::Missing { .. })));
    let mut builder = builder.keeper("Jo").pages(1);
    assert_eq!(builder.build().unwrap().keeper(), "Jo");
}

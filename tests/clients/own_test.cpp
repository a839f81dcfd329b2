// Kinds with fields of their own, asked for by key.
#include "PACKAGE/records.hpp"
#include "PACKAGE/tide_registry.hpp"

#include <gtest/gtest.h>

using namespace PACKAGE;

static RecordValue pier() {
    const RecordValue::Object sector{{"from_degrees", 10.0}};
    return RecordValue::Object{{"name", "pier"}, {"periodMs", 4}, {"sectors", RecordValue::List{sector}}};
}

TEST(Own, a_key_takes_a_record_of_the_fields_of_its_kind) {
    const auto made = Mark::make("T1", pier());
    const auto *light = dynamic_cast<const Light *>(made.get());
    ASSERT_NE(light, nullptr);
    EXPECT_EQ(light->period(), 4);
    EXPECT_EQ(light->sectors().front().from_degrees(), 10.0);
}

TEST(Own, everything_that_is_wrong_is_told) {
    try {
        static_cast<void>(Mark::make("light", RecordValue::Object{{"name", "far too long"}, {"draught", 1}}));
        FAIL() << "it is made";
    } catch (const RecordError &wrong) {
        EXPECT_EQ(wrong.problems().size(), 4);
    }
    EXPECT_THROW(static_cast<void>(Mark::make("lihgt", pier())), UnknownKeyError);
}

TEST(Own, a_registry_takes_kinds_with_fields_of_their_own) {
    TideRegistry registry;
    registry.add("spring", [](const RecordValue &record) {
        double rise = 0;
        for (const auto &[name, value] : *record.as<RecordValue::Object>()) {
            if (name == "rise") {
                rise = *value.as<double>();
            }
        }
        return std::make_unique<High>("Quay", rise);
    });
    const auto made = records::read_tide_with(registry, RecordValue::Object{{"type", "spring"}, {"rise", 5.5}});
    EXPECT_EQ(*made, High("Quay", 5.5));
    EXPECT_THROW(static_cast<void>(registry.make("high", RecordValue::Object{{"metres", -1}})), RecordError);
}
